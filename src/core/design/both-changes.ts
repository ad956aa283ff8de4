import { type KindDesign, type Rule } from "./design";

type Things = Readonly<Record<string, unknown>>;

/**
 * A design with what two people, or one at two times, made of the same: what only one of them changed is as it was left, and
 * what both changed as the later did. A line, a setting or a condition is one thing; rules stand as the later has them, new ones
 * of the earlier first.
 */
export function bothChanges(of: KindDesign, earlier: KindDesign, later: KindDesign): KindDesign {
  const { base, rules, ...rest } = of;
  const { base: earlierBase, rules: earlierRules, ...earlierRest } = earlier;
  const { base: laterBase, rules: laterRules, ...laterRest } = later;
  return {
    ...together(rest, earlierRest, laterRest),
    base: together(base, earlierBase, laterBase),
    rules: rulesOfBoth(rules, earlierRules, laterRules),
  };
}

/** Whether two changed different things of a design: what they made of it is the same then, whoever was the later. */
export function changedApart(of: KindDesign, one: KindDesign, other: KindDesign): boolean {
  return inOrder(bothChanges(of, one, other)) === inOrder(bothChanges(of, other, one));
}

/** A design as JSON, whatever order its names come in. */
function inOrder(design: KindDesign): string {
  const sorted = (_: string, value: unknown) =>
    typeof value === "object" && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value;
  return JSON.stringify(design, sorted);
}

function rulesOfBoth(of: readonly Rule[], earlier: readonly Rule[], later: readonly Rule[]): Rule[] {
  const byId = (rules: readonly Rule[]) => Object.fromEntries(rules.map((rule) => [rule.id, rule]));
  const [before, early, late] = [byId(of), byId(earlier), byId(later)];
  const chosen = together(before, early, late);
  const both = (rule: Rule): Rule => {
    const [was, one, other] = [before[rule.id], early[rule.id], late[rule.id]];
    return was && one && other ? together(was, one, other) : rule;
  };
  // Where only the earlier put them in another order, that stands.
  const ids = (rules: readonly Rule[]) => rules.map(({ id }) => id);
  const order = same(ids(of), ids(later)) ? ids(earlier) : ids(later);
  const others = Object.keys(chosen).filter((id) => !order.includes(id));
  return [...others, ...order].flatMap((id) => (chosen[id] ? [both(chosen[id])] : []));
}

/** Of each thing what one of them made of it, the later's where both did; what one took out is out. */
function together<T extends object>(of: T, earlier: T, later: T): T {
  const [before, early, late] = [of as Things, earlier as Things, later as Things];
  const result: Record<string, unknown> = {};
  for (const name of new Set([...Object.keys(early), ...Object.keys(late)])) {
    const own = same(late[name], before[name]) ? early[name] : late[name];
    if (own !== undefined) result[name] = own;
  }
  return result as T;
}

function same(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}
