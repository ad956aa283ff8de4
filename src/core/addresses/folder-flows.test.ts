import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ELSEWHERE, folderFlows } from "./folder-flows";

const pair = (from: string, to = from) => ({ from, to });

describe("pages that go between folders", () => {
  it("are counted by the folders directly in the one that is looked at", () => {
    const pairs = [
      pair("/shop/rope/twine/a", "/rope/a"),
      pair("/shop/rope/b", "/rope/b"),
      pair("/shop/deck/c", "/deck/c"),
      pair("/notes/d"),
      pair("/about"),
      pair("", "/notes/new"),
    ];
    expect(folderFlows(pairs, "/", 9)).toEqual({
      nodes: [
        { folder: "/shop/", before: 3, after: 0 },
        { folder: "/rope/", before: 0, after: 2 },
        { folder: "/notes/", before: 1, after: 2 },
        { folder: "/deck/", before: 0, after: 1 },
        { folder: "/", before: 1, after: 1 },
      ],
      more: 0,
      flows: [
        { from: "/shop/", to: "/rope/", pages: 2, moving: 2 },
        { from: "/shop/", to: "/deck/", pages: 1, moving: 1 },
        { from: "/notes/", to: "/notes/", pages: 1, moving: 0 },
        { from: "/", to: "/", pages: 1, moving: 0 },
        { from: ELSEWHERE, to: "/notes/", pages: 1, moving: 1 },
      ],
    });
    expect(folderFlows(pairs, "/", 2)).toMatchObject({ nodes: [{ folder: "/shop/" }, { folder: "/rope/" }], more: 3 });
    expect(folderFlows(pairs, "/shop/", 9)).toEqual({
      nodes: [
        { folder: "/shop/rope/", before: 2, after: 0 },
        { folder: "/shop/deck/", before: 1, after: 0 },
      ],
      more: 0,
      flows: [
        { from: "/shop/rope/", to: ELSEWHERE, pages: 2, moving: 2 },
        { from: "/shop/deck/", to: ELSEWHERE, pages: 1, moving: 1 },
      ],
    });
  });

  it("add up, however few folders are told apart", () => {
    const path = fc.constantFrom("/a/x", "/a/b/y", "/c/", "/c/d/e/z", "/f?p=1", "");
    fc.assert(
      fc.property(fc.array(fc.record({ from: path, to: path })), fc.nat(4), (pairs, most) => {
        const { nodes, flows } = folderFlows(pairs, "/", most);
        expect(nodes.length).toBeLessThanOrEqual(most);
        for (const { folder, before, after } of nodes) {
          const of = (side: "from" | "to") =>
            flows.reduce((sum, flow) => sum + (flow[side] === folder ? flow.pages : 0), 0);
          expect([of("from"), of("to")]).toEqual([before, after]);
        }
        for (const { pages, moving } of flows) expect(moving).toBeLessThanOrEqual(pages);
      }),
      { numRuns: 500 },
    );
  });
});
