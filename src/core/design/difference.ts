import { readCondition } from "../rules/condition";
import { conditionWords } from "../rules/words";
import { type KindDesign, type Lines, type Rule, type Site } from "./design";
import { type ExtraName, EXTRAS, type TextName, TEXTS } from "./kinds";

/** One thing in which two designs differ. `before` and `after` are as written, `null` where there is nothing. */
export interface Difference {
  /** Whose it is: the rule's name, `null` for the base. */
  readonly rule: string | null;
  readonly what:
    | TextName
    | ExtraName
    | "robots"
    | "address"
    | "moves"
    | "movesFor"
    | "condition"
    | "place"
    | "switch"
    | "name"
    | "rule";
  readonly before: string | null;
  readonly after: string | null;
}

/**
 * What is different between two designs of a kind, in the order of the second: rules that went, came, moved, were switched
 * or changed, then the base. Rules are the same where their ids are.
 */
export function differenceOf(before: KindDesign, after: KindDesign): Difference[] {
  const found: Difference[] = [];
  const old = new Map(before.rules.map((rule) => [rule.id, rule]));
  const kept = new Set(after.rules.map((rule) => rule.id));
  for (const rule of before.rules)
    if (!kept.has(rule.id)) found.push({ rule: rule.name, what: "rule", before: inWords(rule), after: null });
  const moved = movedRules(before, after);
  for (const [place, rule] of after.rules.entries()) {
    const was = old.get(rule.id);
    if (!was) {
      found.push({ rule: rule.name, what: "rule", before: null, after: inWords(rule) });
      found.push(...lineDifferences(rule.name, {}, rule));
      continue;
    }
    if (was.name !== rule.name) found.push({ rule: rule.name, what: "name", before: was.name, after: rule.name });
    if (JSON.stringify(was.when) !== JSON.stringify(rule.when))
      found.push({ rule: rule.name, what: "condition", before: inWords(was), after: inWords(rule) });
    if ((was.off ?? false) !== (rule.off ?? false))
      found.push({ rule: rule.name, what: "switch", before: was.off ? "off" : "on", after: rule.off ? "off" : "on" });
    if (moved.has(rule.id))
      found.push({
        rule: rule.name,
        what: "place",
        before: String(before.rules.indexOf(was) + 1),
        after: String(place + 1),
      });
    found.push(...lineDifferences(rule.name, was, rule));
  }
  return [...found, ...lineDifferences(null, before.base, after.base), ...addressDifferences(before, after)];
}

function addressDifferences(before: KindDesign, after: KindDesign): Difference[] {
  const said = ({ address, moves, movesFor }: KindDesign) => ({ address, moves, movesFor: movesFor?.join(", ") });
  const [was, is] = [said(before), said(after)];
  return (["address", "moves", "movesFor"] as const).flatMap((what) =>
    (was[what] ?? "") === (is[what] ?? "")
      ? []
      : [{ rule: null, what, before: was[what] ?? null, after: is[what] ?? null }],
  );
}

function inWords(rule: Rule): string {
  return conditionWords(readCondition(rule.when));
}

function lineDifferences(rule: string | null, before: Lines, after: Lines): Difference[] {
  return ([...TEXTS, ...EXTRAS, "robots"] as const).flatMap((text) =>
    (before[text] ?? "") === (after[text] ?? "")
      ? []
      : [{ rule, what: text, before: before[text] ?? null, after: after[text] ?? null }],
  );
}

/** The fewest rules of both designs that have to move for the old order to become the new one: those off a longest common run. */
function movedRules(before: KindDesign, after: KindDesign): Set<string> {
  const places = new Map(before.rules.map((rule, place) => [rule.id, place]));
  const both = after.rules
    .filter((rule) => places.has(rule.id))
    .map((rule) => ({ id: rule.id, place: places.get(rule.id)! }));
  const best = both.map(() => 1);
  const from = both.map(() => -1);
  both.forEach((rule, i) => {
    for (let j = 0; j < i; j++)
      if (both[j]!.place < rule.place && best[j]! + 1 > best[i]!) [best[i], from[i]] = [best[j]! + 1, j];
  });
  const stays = new Set<string>();
  for (let i = best.indexOf(Math.max(0, ...best)); i >= 0; i = from[i]!) stays.add(both[i]!.id);
  return new Set(both.filter(({ id }) => !stays.has(id)).map(({ id }) => id));
}

/** A setting of a site that differs, by its name. */
export interface SiteDifference {
  readonly setting: string;
  readonly before: string;
  readonly after: string;
}

export function siteDifference(before: Site, after: Site): SiteDifference[] {
  const said = (value: unknown) => (typeof value === "string" ? value : JSON.stringify(value));
  return (Object.keys(after) as (keyof Site)[]).flatMap((setting) =>
    JSON.stringify(before[setting]) === JSON.stringify(after[setting])
      ? []
      : [{ setting, before: said(before[setting]), after: said(after[setting]) }],
  );
}
