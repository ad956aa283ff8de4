import { expect, it } from "vitest";
import { addressChange, countChanges } from "./address-change";
import { KnownAddresses } from "./address-parts";

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
  expect([...countedChanges([from, from, ""], [to, to, to])]).toEqual(expected.map((change) => [change, 2]));
});

/** What becomes of addresses, counted as a plan does it. */
function countedChanges(before: readonly string[], after: readonly string[]) {
  const { columns, numbers } = new KnownAddresses([...before, ...after]);
  const columnsFrom = (start: number) => ({
    folder: columns.folder.subarray(start),
    name: columns.name.subarray(start),
    end: columns.end.subarray(start),
  });
  return countChanges([...before.keys()], columnsFrom(0), columnsFrom(before.length), numbers);
}
