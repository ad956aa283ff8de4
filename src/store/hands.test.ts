import { describe, expect, it } from "vitest";
import { type Hands, NO_HANDS } from "../core/design/hands";
import { handChanges } from "./hands";

const site = { title: "Site title", description: "", slug: "rope", robots: "" };
const none = { byHand: null, given: null };
const hands = (texts: Hands["texts"], extras: Hands["extras"] = []): Hands => ({ texts, extras });

describe("what becomes of what a page has by hand", () => {
  it.each<[string, Parameters<typeof handChanges>[0], Hands, object[]]>([
    ["a row that says nothing leaves all", none, hands({ title: "Site title", robots: "noindex" }), []],
    ["a text that is given is set", { byHand: null, given: hands({ slug: "mine" }) }, NO_HANDS, [["slug", "mine"]]],
    ["one that is there already is not", { byHand: null, given: hands({ slug: "mine" }) }, hands({ slug: "mine" }), []],
    [
      "others stay beside what is given, where the row does not say which are by hand",
      { byHand: null, given: hands({ slug: "mine" }) },
      hands({ title: "Site title" }),
      [["slug", "mine"]],
    ],
    ["what is by hand takes the site's text", { byHand: ["title"], given: null }, NO_HANDS, [["title", "Site title"]]],
    ["an empty text is nobody's", { byHand: ["description"], given: null }, NO_HANDS, []],
    [
      "what is not by hand is let go of",
      { byHand: [], given: null },
      hands({ title: "Site title" }),
      [["title", null]],
    ],
    ["but not one that waits", { byHand: [], given: null }, hands({ title: "Waits" }), []],
    ["nor a robots setting", { byHand: [], given: null }, hands({ robots: "" }), []],
    [
      "extra texts are set where they are others",
      { byHand: null, given: hands({}, [{ text: "alt", image: "/a", value: "A" }]) },
      hands({}, [{ text: "alt", image: "/a", value: "B" }]),
      [["alt", "A"]],
    ],
    [
      "and stay where they are the same",
      { byHand: null, given: hands({}, [{ text: "alt", image: "/a", value: "A" }]) },
      hands({}, [
        { text: "alt", image: "/a", value: "A" },
        { text: "keywords", image: "", value: "x" },
      ]),
      [],
    ],
  ])("%s", (_, row, now, changes) =>
    expect(handChanges(row, site, now, site).map(({ text, value }) => [text, value])).toEqual(changes),
  );
});
