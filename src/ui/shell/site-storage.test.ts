import { describe, expect, it } from "vitest";
import { SiteStorage } from "./site-storage";

/** A browser's store. */
class Store implements Storage {
  readonly values = new Map<string, string>();
  get length() {
    return this.values.size;
  }
  key = (index: number) => [...this.values.keys()][index] ?? null;
  getItem = (name: string) => this.values.get(name) ?? null;
  setItem = (name: string, value: string) => void this.values.set(name, value);
  removeItem = (name: string) => void this.values.delete(name);
  clear = () => this.values.clear();
}

describe("what a browser keeps of a site", () => {
  it("is found there, and never on another, whose id may begin like it", () => {
    const store = new Store();
    const [one, other] = [new SiteStorage(store, "rope"), new SiteStorage(store, "rope-2")];
    one.setItem("draft", "of rope");
    other.setItem("draft", "of rope 2");
    other.setItem("more", "x");
    expect([one.getItem("draft"), one.length, one.key(0), one.key(1)]).toEqual(["of rope", 1, "draft", null]);
    expect([other.getItem("draft"), other.length]).toEqual(["of rope 2", 2]);
    one.clear();
    expect([one.length, other.length]).toEqual([0, 2]);
    other.removeItem("draft");
    expect(other.getItem("draft")).toBeNull();
  });
});
