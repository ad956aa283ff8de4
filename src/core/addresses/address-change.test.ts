import { expect, it } from "vitest";
import { addressChange, countChanges } from "./address-change";

it.each([
  ["/c/rope/twine/waxed", "/shop/waxed", ["folder-added", "folder-dropped"]],
  ["/rope/waxed", "/cordage/waxed", ["folder-renamed"]],
  ["/waxed", "/rope/waxed", ["folder-added"]],
  ["/rope/waxed", "/waxed", ["folder-dropped"]],
  ["/rope/waxed", "/rope/yarn", ["slug"]],
  ["/rope/waxed", "/rope/waxed.html", ["ending"]],
  ["/rope/waxed/", "/rope/waxed", ["ending"]],
  ["/rope/waxed?p=1", "/rope/yarn?p=1", ["slug"]],
  ["/rope/.well-known", "/rope/.well-known", []],
])("%s → %s: %j", (from, to, expected) => {
  expect(addressChange(from, to)).toEqual(expected);
  expect([
    ...countChanges([
      { from, to },
      { from, to },
    ]),
  ]).toEqual(expected.map((change) => [change, 2]));
});
