import { type Rule } from "../design/design";
import { type ExtraName, EXTRAS, type TextName, TEXTS } from "../design/kinds";
import { type Decision, isSet } from "./decide";

/** What rules decide: the texts, the extra ones, the robots setting. */
export type Decided = TextName | ExtraName | "robots";
export const DECIDED = [...TEXTS, ...EXTRAS, "robots"] as const satisfies readonly Decided[];
export type Decisions = Readonly<Record<Decided, Decision>>;

/** What one rule does to a kind's items. */
export interface RuleReport {
  readonly id: string;
  /** Items that its condition takes, whoever decides them. */
  readonly matches: number;
  /** Items of which it decides a text, by text, and any of them. */
  readonly takes: number;
  readonly byText: Readonly<Partial<Record<Decided, number>>>;
  /** Rules that decide what this one would, with how many of its items; the one that hides most first. */
  readonly hiddenBy: readonly { readonly id: string; readonly items: number }[];
  /** Why it decides nothing, or `null`. `hidden`: it can never win, rules above it decide all that it takes. */
  readonly idle: "off" | "sets nothing" | "matches nothing" | "hidden" | null;
}

/** What a kind's rules do together. */
export interface RulesReport {
  readonly rules: readonly RuleReport[];
  /** Items of which the base decides a text. */
  readonly base: Readonly<Record<TextName, number>>;
  /** Items whose text no rule and no base sets: it stays what the site has. */
  readonly unset: Readonly<Record<TextName, number>>;
}

/**
 * Finds what each rule takes, the rules that can never win and whom they are hidden by, those that match nothing, and the
 * texts that nothing sets.
 *
 * @param rowsOf the rows that a rule's condition takes, 1 where it does.
 */
export function reportRules(
  rules: readonly Rule[],
  decisions: Decisions,
  rowsOf: (rule: Rule) => Uint8Array,
): RulesReport {
  const reports = rules.map((rule): RuleReport => {
    const own = DECIDED.filter((text) => isSet(rule[text]));
    const rows = rowsOf(rule);
    const places = own.map((text) => ({
      text,
      place: decisions[text].lines.findIndex((line) => line.rule?.id === rule.id),
      decides: decisions[text].decides,
    }));
    const byText = Object.fromEntries(own.map((text) => [text, 0])) as Partial<Record<Decided, number>>;
    const hiders = places.map(({ text }) => new Int32Array(decisions[text].lines.length + 1));
    let matches = 0;
    let takes = 0;
    for (let row = 0; row < rows.length; row++) {
      if (rows[row] === 0) continue;
      matches++;
      let wins = false;
      for (let i = 0; i < places.length; i++) {
        const { text, place, decides } = places[i]!;
        if (decides[row] === place && place >= 0) {
          byText[text]!++;
          wins = true;
        } else hiders[i]![decides[row]! + 1]!++;
      }
      if (wins) takes++;
    }
    const idle = rule.off
      ? "off"
      : own.length === 0
        ? "sets nothing"
        : matches === 0
          ? "matches nothing"
          : takes === 0
            ? "hidden"
            : null;
    return { id: rule.id, matches, takes, byText, hiddenBy: rule.off ? [] : hiding(places, hiders, decisions), idle };
  });
  const count = (text: TextName, wanted: (place: number) => boolean) => {
    const { decides } = decisions[text];
    let items = 0;
    for (let row = 0; row < decides.length; row++) if (wanted(decides[row]!)) items++;
    return items;
  };
  const perText = (of: (text: TextName) => number) =>
    Object.fromEntries(TEXTS.map((text) => [text, of(text)])) as Record<TextName, number>;
  return {
    rules: reports,
    base: perText((text) => {
      const place = decisions[text].lines.findIndex((line) => line.from === "base");
      return place < 0 ? 0 : count(text, (own) => own === place);
    }),
    unset: perText((text) => count(text, (own) => own < 0)),
  };
}

/** Whom a rule's items go to instead, over all its texts; an item that two texts lose to one rule counts once a text, the most of them. */
function hiding(
  places: readonly { text: Decided }[],
  hiders: readonly Int32Array[],
  decisions: Decisions,
): RuleReport["hiddenBy"] {
  const most = new Map<string, number>();
  places.forEach(({ text }, i) => {
    decisions[text].lines.forEach(({ rule }, place) => {
      const items = hiders[i]![place + 1]!;
      if (rule && items > 0) most.set(rule.id, Math.max(most.get(rule.id) ?? 0, items));
    });
  });
  return [...most].map(([id, items]) => ({ id, items })).sort((a, b) => b.items - a.items);
}
