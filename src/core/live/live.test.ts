import iconv from "iconv-lite";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readCases } from "../../test/cases";
import { compareText } from "./compare-text";
import { decodeHtml } from "./decode-html";
import { extractPage } from "./extract";
import { checkOldAddress, checkPage, type PageMeant, type PageMet } from "./findings";

describe("a page as its source says it", () => {
  it("is read as the examples of the contract promise", () => {
    const cases = readCases<{ url: string; html: string; out: object }>("extract.jsonl");
    expect(cases.length).toBeGreaterThan(0);
    for (const { url, html, out } of cases) expect(extractPage(html, url)).toMatchObject(out);
  });

  it("is read where it is broken as browsers read it", () => {
    const html =
      "<title>One</title><title>Two</title><p>In the head</p><h1>A <b>b<i>c</b></i><meta name=Description content='  x\n y '><link rel='x canonical' href='../c'>";
    expect(extractPage(html, "https://site.example/a/b/d")).toMatchObject({
      title: "One",
      h1: "A bc",
      description: "x y",
      canonical: "https://site.example/a/c",
      times: { title: 2, description: 1, canonical: 1 },
    });
    expect(extractPage(`${"<div>".repeat(50_000)}<h1>deep`, "https://site.example/").h1).toBe("deep");
    expect(extractPage("", "https://site.example/")).toMatchObject({ title: null, h1: null, robots: null });
  });

  it("resolves against a base, and takes templates and several robots in", () => {
    const html =
      "<base href='/x/'><link rel=canonical href='y'><meta name=robots content=noindex><meta name=robots content=nofollow><html lang=' en '>";
    expect(extractPage(html, "https://site.example/a")).toMatchObject({
      canonical: "https://site.example/x/y",
      robots: "noindex, nofollow",
    });
  });
});

describe("the charset of a page", () => {
  const text = "<meta charset=X><title>Café – naïve</title>";
  it.each([
    ["its header", iconv.encode("Café", "latin1"), "text/html; charset=ISO-8859-1", "Café"],
    ["its mark, before its header", Buffer.from("\ufeffCafé"), "text/html; charset=ISO-8859-1", "Café"],
    ["a mark of UTF-16", iconv.encode("Café", "utf-16le", { addBOM: true }), null, "Café"],
    ["its meta", iconv.encode(text.replace("X", "windows-1252"), "windows-1252"), "text/html", "naïve"],
    ["its bytes, where nothing says it", Buffer.from("Café"), null, "Café"],
    ["its bytes, where they are no UTF-8", iconv.encode("Café", "windows-1252"), null, "Café"],
    [
      "its meta, where the header says nothing there is",
      iconv.encode(text.replace("X", "iso-8859-15"), "iso-8859-15").subarray(0, -8),
      "text/html; charset=nonsense",
      "naïve",
    ],
  ])("is told by %s", (_, bytes, type, found) => {
    expect(decodeHtml(bytes, type).text).toContain(found);
  });
});

describe("a text that the site was given", () => {
  it.each([
    ["Rope", "Rope", { how: "as-meant" }],
    ["Rope  and\ttwine", "Rope and twine", { how: "as-meant" }],
    ["Rope", "Rope | Fennick", { how: "adds", before: "", behind: " | Fennick" }],
    ["Rope", "Fennick: Rope!", { how: "adds", before: "Fennick: ", behind: "!" }],
    ["Rope", "Ropes of Europe", { how: "other" }],
    ["Rope & twine", "Rope &amp; twine", { how: "escaped-twice" }],
    ["Rope &amp; twine", "Rope & twine", { how: "other" }],
    ["Rope", null, { how: "missing" }],
    ["Rope", "", { how: "missing" }],
    ["", "", { how: "as-meant" }],
    ["", "Theme", { how: "other" }],
    ["Rope", "Old rope, before", { how: "old" }],
    ["A description that is long enough to be cut somewhere", "A description that is long enough…", { how: "cut" }],
    ["A description that is long enough to be cut somewhere", "A descr", { how: "other" }],
  ])("%j that is met as %j", (meant, met, how) => {
    expect(compareText(meant, met, "Old rope, before")).toEqual(how);
  });

  it("is found in whatever is put around it", () => {
    const word = fc.string({ minLength: 1, maxLength: 20 });
    fc.assert(
      fc.property(word, word, word, (before, text, behind) => {
        const { how } = compareText(text, before + text + behind, null);
        expect(["adds", "as-meant", "escaped-twice", "missing", "other"]).toContain(how);
        if (text.trim() === text && !/\s{2}|[\f\v]/.test(text)) expect(how).not.toBe("cut");
      }),
    );
  });
});

describe("a page that was fetched", () => {
  const meant: PageMeant = {
    path: "/café",
    title: "Rope",
    description: "All about rope",
    before: { title: null, description: null },
    isHidden: false,
    canonical: "",
  };
  const bases = ["https://site.example", "http://127.0.0.1:4910"];
  const html = (head: string) => `<title>Rope</title><meta name=description content="All about rope">${head}`;
  const met = (head: string, over: Partial<PageMet> = {}): PageMet => ({
    hops: [{ url: "http://127.0.0.1:4910/caf%C3%A9", status: 200 }],
    trouble: null,
    says: extractPage(html(head), "http://127.0.0.1:4910/caf%C3%A9"),
    robotsHeader: null,
    ...over,
  });
  const found = (page: PageMet, over: Partial<PageMeant> = {}) =>
    checkPage({ ...meant, ...over }, page, bases).findings;

  it("as it was meant has no finding", () => {
    expect(found(met(""))).toEqual([]);
    expect(found(met('<link rel=canonical href="/café">'))).toEqual([]);
    expect(found(met('<link rel=canonical href="https://site.example/caf%C3%A9">'))).toEqual([]);
  });

  it("is not to be indexed by its meta or its header, where that is not meant", () => {
    expect(found(met("<meta name=robots content='noindex, follow'>"))).toEqual(["noindex"]);
    expect(found(met("", { robotsHeader: "none" }))).toEqual(["noindex"]);
    expect(found(met("", { robotsHeader: "noindex" }), { isHidden: true })).toEqual([]);
  });

  it("that is elsewhere, or not there, says so", () => {
    expect(found(met('<link rel=canonical href="/other">'))).toEqual(["canonical-elsewhere"]);
    expect(found(met('<link rel=canonical href="/other">'), { canonical: "/other" })).toEqual([]);
    const hop = (status: number) => [{ url: "http://127.0.0.1:4910/x", status }];
    expect(found(met("", { hops: hop(404) }))).toEqual(["missing"]);
    expect(found(met("", { hops: hop(500) }))).toEqual(["broken"]);
    expect(found(met("", { hops: [...hop(301), ...hop(200)] }))).toEqual(["moved"]);
    expect(found(met("", { trouble: "No answer" }))).toEqual(["unreachable"]);
  });

  it("tells every text that is another, and those that stand there twice", () => {
    const two = met("<title>Rope</title>");
    expect(found(two, { title: "Twine", description: "All" })).toEqual([
      "title-other",
      "title-twice",
      "description-added",
    ]);
  });
});

describe("an old address", () => {
  const bases = ["http://127.0.0.1:4910"];
  const hops = (...steps: (readonly [string, number])[]) =>
    steps.map(([path, status]) => ({ url: `${bases[0]}${path}`, status }));
  it.each([
    [hops(["/old", 301], ["/new", 200]), []],
    [hops(["/old", 308], ["/new", 200]), []],
    [hops(["/old", 302], ["/new", 200]), ["old-temporary"]],
    [hops(["/old", 301], ["/older", 301], ["/new", 200]), ["old-chain"]],
    [hops(["/old", 302], ["/older", 301], ["/new", 200]), ["old-temporary", "old-chain"]],
    [hops(["/old", 404]), ["old-lost"]],
    [hops(["/old", 200]), ["old-lost"]],
    [hops(["/old", 301], ["/other", 200]), ["old-lost"]],
    [hops(["/old", 301], ["/new", 404]), ["old-lost"]],
    [[], ["old-lost"]],
  ])("by %j", (way, findings) => expect(checkOldAddress("/new", way, bases)).toEqual(findings));
});
