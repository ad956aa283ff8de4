import { type KindDesign, type Lines, type Rule } from "./design";
import { type ExtraName, type TextName } from "./kinds";
import { type Robots } from "./robots";

/** Where lines are: in the base, or in the rule with this id. */
export type LinesOwner = "base" | (string & {});

/** The lines of the base or of a rule; the base's where there is no such rule. */
export function linesOf(design: KindDesign, owner: LinesOwner): Lines {
  return design.rules.find((rule) => rule.id === owner) ?? design.base;
}

/** The design with a line put in; an empty one is taken out. */
export function withLine(
  design: KindDesign,
  owner: LinesOwner,
  text: TextName | ExtraName,
  source: string,
): KindDesign {
  const put = <T extends Lines>(lines: T): T => {
    const { [text]: _, ...rest } = lines;
    return (source === "" ? rest : { ...rest, [text]: source }) as T;
  };
  if (!design.rules.some((rule) => rule.id === owner)) return { ...design, base: put(design.base) };
  return { ...design, rules: design.rules.map((rule) => (rule.id === owner ? put(rule) : rule)) };
}

/** The design with an address line put in; an empty one is taken out. */
export function withAddress({ address: _, ...design }: KindDesign, source: string): KindDesign {
  return source === "" ? design : { ...design, address: source };
}

/** The design with a robots setting put in for the base or a rule, or taken out. */
export function withRobots(design: KindDesign, owner: LinesOwner, robots: Robots | null): KindDesign {
  const put = <T extends Lines>(lines: T): T => {
    const { robots: _, ...rest } = lines;
    return (robots === null ? rest : { ...rest, robots }) as T;
  };
  if (!design.rules.some((rule) => rule.id === owner)) return { ...design, base: put(design.base) };
  return { ...design, rules: design.rules.map((rule) => (rule.id === owner ? put(rule) : rule)) };
}

/** The design with a rule at a place from 0; one with the same id is replaced where it stands. */
export function withRule(design: KindDesign, rule: Rule, place = 0): KindDesign {
  if (design.rules.some(({ id }) => id === rule.id))
    return { ...design, rules: design.rules.map((own) => (own.id === rule.id ? rule : own)) };
  return { ...design, rules: [...design.rules.slice(0, place), rule, ...design.rules.slice(place)] };
}

export function withoutRule(design: KindDesign, id: string): KindDesign {
  return { ...design, rules: design.rules.filter((rule) => rule.id !== id) };
}

/**
 * The design with a rule moved to another place, from 0; beyond the ends it stays at them.
 *
 * @example withRuleMoved(design, "brass", 0).rules[0].id // "brass"
 */
export function withRuleMoved(design: KindDesign, id: string, place: number): KindDesign {
  const rule = design.rules.find((own) => own.id === id);
  if (!rule) return design;
  const rest = design.rules.filter((own) => own !== rule);
  const at = Math.max(0, Math.min(rest.length, place));
  return { ...design, rules: [...rest.slice(0, at), rule, ...rest.slice(at)] };
}

/** The design with a copy of a rule behind it, under another name. */
export function withRuleCopied(design: KindDesign, id: string, newId: string): KindDesign {
  const at = design.rules.findIndex((rule) => rule.id === id);
  if (at < 0) return design;
  const rule = design.rules[at]!;
  return withRule(design, { ...rule, id: newId, name: `${rule.name}, copy` }, at + 1);
}
