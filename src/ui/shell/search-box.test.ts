// @vitest-environment jsdom
import { cleanup, fireEvent, render } from "@testing-library/react";
import { createElement } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { SearchBox } from "./search-box";

afterEach(cleanup);

/** A box whose text comes back only when it is let come back. */
function boxed() {
  const told: string[] = [];
  const onSearch = (typed: string) => void told.push(typed);
  const box = (value: string) => createElement(SearchBox, { label: "Search", placeholder: "", value, onSearch });
  const { rerender, getByRole } = render(box(""));
  const input = getByRole("searchbox") as HTMLInputElement;
  return {
    told,
    type: (value: string) => fireEvent.change(input, { target: { value } }),
    comes: (value: string) => rerender(box(value)),
    text: () => input.value,
  };
}

describe("a box to search in", () => {
  it("keeps what is typed while what was typed before comes back", () => {
    const { type, comes, text, told } = boxed();
    type("c");
    type("cl");
    comes("c");
    expect(text()).toBe("cl");
    type("cle");
    comes("cle");
    expect(text()).toBe("cle");
    expect(told).toEqual(["c", "cl", "cle"]);
  });

  it("has what the address bar says where it was never typed, and where it was typed long ago", () => {
    const { type, comes, text } = boxed();
    type("a");
    type("ab");
    type("a");
    comes("a");
    comes("rope");
    expect(text()).toBe("rope");
    comes("ab");
    expect(text()).toBe("ab");
    comes("");
    expect(text()).toBe("");
  });
});
