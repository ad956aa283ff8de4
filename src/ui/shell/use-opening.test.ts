// @vitest-environment jsdom
import { cleanup, renderHook } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { useOpening } from "./use-opening";

afterEach(cleanup);

describe("the opening of a screen", () => {
  it("is the one that the page was sent for, as long as it is there, and another one when one comes back", () => {
    const first = renderHook(() => useOpening("sent"));
    expect(first.result.current).toBe("sent");
    first.rerender();
    expect(first.result.current).toBe("sent");
    first.unmount();
    const back = renderHook(() => useOpening("sent")).result.current;
    const again = renderHook(() => useOpening("sent")).result.current;
    expect(new Set(["sent", back, again]).size).toBe(3);
  });
});
