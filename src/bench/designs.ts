import { type KindDesign, type Lines, type Rule } from "../core/design/design";
import { DEMO_LINES } from "../demo/site";

/** Lines of pieces that give way, without `^apart`: what the bare loop writes out, too. */
export const BASE_LINES = {
  title: "{name}[ in {finish} finish]^2[ – {category}]^1",
  description: "{intro}[ In {finish} finish.]^1 Cut and sent from our loft the same day.",
  slug: "{name}[-{finish}]^1[-{colour}]^2",
};

const CONDITIONS: readonly [string, Rule["when"]][] = [
  ["Brass and bronze", { field: "material", "is one of": ["brass", "bronze"] }],
  ["By the metre", { field: "sold_by", is: "metre" }],
  ["Red and blue", { field: "colour", "is one of": ["red", "blue"] }],
  ["Polished", { field: "finish", is: "polished" }],
  ["By the coil", { field: "sold_by", is: "coil" }],
  ["Cheap", { field: "price", "<": "15" }],
];

/** Six rules, each with all three lines, `^apart` among them, over the demo site's base lines. */
export function sixRules(): KindDesign {
  const rules = CONDITIONS.map(([name, when], i): Rule => ({
    id: `rule-${i + 1}`,
    name,
    when,
    title: `{name}[ in {finish} finish]^2[ – {category}]^1[ – {colour}]^apart[ – {id}]^apart`,
    description:
      "{intro:first}[ In {finish} finish.]^1[ {length} long.]^2[ Colour {colour}.]^apart[ No. {id}.]^apart Sent today.",
    slug: "{name}[-{finish}]^1[-{colour}]^apart[-{id}]^apart",
  }));
  return { base: DEMO_LINES.product as Lines, rules, moves: "all" };
}
