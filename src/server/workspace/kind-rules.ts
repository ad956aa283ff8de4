import { EMPTY_DESIGN, type KindDesign, type Rule } from "../../core/design/design";
import { type Kind, type TextName, TEXTS, textsOf } from "../../core/design/kinds";
import { type ItemSet } from "../../core/proof/items";
import { Cancelled } from "../../core/proof/prove-set";
import { readCondition } from "../../core/rules/condition";
import type { RawCondition } from "../../core/rules/condition-shape";
import { type Decision, decide, type DecidingRule, isSet } from "../../core/rules/decide";
import { matchingRows, TooCostly } from "../../core/rules/match";
import { type LineGuard } from "./line-guard";
import { type WorkWatch } from "./watch";
import { DECIDED, type Decided, type Decisions, reportRules, type RulesReport } from "../../core/rules/report";

/** Matched rows are remembered up to so many bytes, a byte an item and condition. */
const MOST_BYTES = 256 * 1024 * 1024;

/** What a condition would take, before it is a rule. */
export interface ConditionPreview {
  readonly matches: number;
  /** Items that it would win: matched, and not decided by a rule above the place it would have. */
  readonly free: number;
  readonly total: number;
  readonly examples: readonly { readonly id: number; readonly name: string }[];
}

/** A kind's rules over its items: which rows each takes, which line decides, what never wins. Remembered as long as the items stay. */
export class KindRules {
  private readonly matched = new Map<string, Uint8Array>();
  private readonly decisions = new Map<Decided, { key: string; decision: Decision }>();
  /** Conditions that would take too long on these items, by what they are, with the words for it. */
  private readonly costly = new Map<string, string>();
  private reported: { key: string; report: RulesReport } | null = null;

  constructor(
    private readonly kind: Kind,
    private readonly items: ItemSet,
    private readonly guard: LineGuard,
  ) {}

  /** The same rules over the items after some of them changed: what rests on other fields than those that changed is kept. */
  over(items: ItemSet, fields: ReadonlySet<string>): KindRules {
    const next = new KindRules(this.kind, items, this.guard);
    const rests = (when: string) => [...fields].some((field) => when.toLowerCase().includes(JSON.stringify(field)));
    for (const [when, rows] of this.matched) if (!rests(when)) next.matched.set(when, rows);
    for (const [when, words] of this.costly) if (!rests(when)) next.costly.set(when, words);
    if (next.matched.size === this.matched.size) {
      for (const [text, known] of this.decisions) next.decisions.set(text, known);
      next.reported = this.reported;
    }
    return next;
  }

  /** The rows that a condition takes, 1 where it does. */
  rows(when: RawCondition, watch: WorkWatch = {}): Uint8Array {
    const key = JSON.stringify(when);
    let rows = this.matched.get(key);
    if (rows) {
      // The least recently asked for goes first.
      this.matched.delete(key);
      this.matched.set(key, rows);
      return rows;
    }
    if (watch.cancelled?.()) throw new Cancelled();
    rows = this.match(when, watch);
    while (this.matched.size > 0 && (this.matched.size + 1) * this.items.size > MOST_BYTES)
      this.matched.delete(this.matched.keys().next().value!);
    this.matched.set(key, rows);
    return rows;
  }

  /** Why a condition takes nothing, in words: it ended the thread before, or would take too long; `null` where it was tried. */
  refusal(when: RawCondition): string | null {
    const source = JSON.stringify(when);
    return this.guard.refusal({ what: "condition", source }) ?? this.costly.get(source) ?? null;
  }

  private match(when: RawCondition, watch: WorkWatch): Uint8Array {
    // A condition that ended the thread before, or took too long, takes nothing until it is changed.
    if (this.refusal(when) !== null) return new Uint8Array(this.items.size);
    const source = JSON.stringify(when);
    const condition = readCondition(when);
    this.guard.begin([{ kind: this.kind, text: null, rule: null, what: "condition", source }]);
    this.guard.at(0);
    try {
      return matchingRows(condition, this.items, { pause: this.pause(watch) });
    } catch (error) {
      if (!(error instanceof TooCostly)) throw error;
      this.costly.set(source, error.message);
      return new Uint8Array(this.items.size);
    } finally {
      this.guard.clear();
    }
  }

  /** What is done while a condition is matched: it ends when nobody waits for it, and when it takes too long. */
  private pause({ cancelled, progress }: WorkWatch): (done: number, total: number) => void {
    const began = performance.now();
    return (done, total) => {
      if (cancelled?.()) throw new Cancelled();
      if (performance.now() - began > this.guard.patience)
        throw new TooCostly(
          `The condition took longer than ${Math.round(this.guard.patience / 1000)} seconds and was ended at ${Math.floor((100 * done) / total)} % of what it looks at; it matches no page. Make its pattern simpler, or look in a shorter field.`,
        );
      progress?.({ step: "matching", kind: this.kind, text: null, side: null, share: done / total });
    };
  }

  /** Which line decides a text of each item; worked out anew only when a rule's condition, place or having a line changes. */
  decision(given: KindDesign, text: Decided, watch: WorkWatch = {}): Decision {
    const isNone = text === "slug" && !textsOf(this.kind).includes(text);
    const design = isNone ? EMPTY_DESIGN : given;
    const rowsOf = (rule: DecidingRule) => this.rows(rule.when, watch);
    const key = JSON.stringify([
      design.rules.flatMap((rule) => (rule.off || !rule[text]?.trim() ? [] : [rule.when])),
      Boolean(design.base[text]?.trim()),
    ]);
    const known = this.decisions.get(text);
    const made = known?.key === key ? known.decision.decides : null;
    if (made) return { lines: deciding(design, text), decides: made };
    const decision = decide(design.rules, design.base, text, this.items, rowsOf);
    this.decisions.set(text, { key, decision });
    return decision;
  }

  report(design: KindDesign, watch: WorkWatch = {}): RulesReport {
    const key = JSON.stringify([
      design.rules.map((rule) => [rule.id, rule.when, rule.off, DECIDED.map((text) => Boolean(rule[text]?.trim()))]),
      DECIDED.map((text) => Boolean(design.base[text]?.trim())),
    ]);
    if (this.reported?.key === key) return this.reported.report;
    const decisions = Object.fromEntries(
      DECIDED.map((text) => [text, this.decision(design, text, watch)]),
    ) as Decisions;
    const report = reportRules(design.rules, decisions, (rule: Rule) => this.rows(rule.when, watch));
    this.reported = { key, report };
    return report;
  }

  /**
   * The items of a part of the set: those that a rule (or with `base` the base) decides. Where it has no line for the text,
   * those of which it decides any. `null`: all.
   */
  scope(design: KindDesign, scope: string, text: TextName, watch: WorkWatch = {}): Uint8Array | null {
    if (scope === "all") return null;
    const own = (name: TextName) => {
      const { lines, decides } = this.decision(design, name, watch);
      const place = lines.findIndex((line) => (scope === "base" ? line.from === "base" : line.rule?.id === scope));
      return place < 0 ? null : { decides, place };
    };
    const rows = new Uint8Array(this.items.size);
    const first = own(text);
    for (const part of first ? [first] : TEXTS.map(own)) {
      if (!part) continue;
      const { decides, place } = part;
      for (let row = 0; row < rows.length; row++) if (decides[row] === place) rows[row] = 1;
    }
    return rows;
  }

  /**
   * What a condition would take with so many rules above it. An item is free where, for one of the texts that the rule sets
   * (any, as long as it sets none), no rule above takes it and sets that text.
   */
  preview(
    design: KindDesign,
    when: RawCondition,
    place: { above: number; texts: readonly TextName[] },
    nameOf: (row: number) => { id: number; name: string },
    watch: WorkWatch = {},
  ): ConditionPreview {
    const rows = this.match(when, watch);
    const refused = this.refusal(when);
    if (refused !== null) throw new TooCostly(refused);
    const rulesAbove = design.rules.slice(0, place.above).filter((rule) => !rule.off);
    const above = (place.texts.length > 0 ? place.texts : TEXTS).map((text) =>
      rulesAbove.filter((rule) => isSet(rule[text])).map((rule) => this.rows(rule.when, watch)),
    );
    let matches = 0;
    let free = 0;
    const examples: { id: number; name: string }[] = [];
    for (let row = 0; row < rows.length; row++) {
      if (rows[row] === 0) continue;
      matches++;
      if (examples.length < 8) examples.push(nameOf(row));
      if (above.some((rules) => rules.every((taken) => taken[row] === 0))) free++;
    }
    return { matches, free, total: rows.length, examples };
  }
}

/** The lines that can decide a text, as they read now: what decides is remembered, their wording is not. */
function deciding(design: KindDesign, text: Decided): Decision["lines"] {
  const rules = design.rules.flatMap((rule) =>
    rule.off || !rule[text]?.trim()
      ? []
      : [{ from: "rule" as const, rule: { id: rule.id, name: rule.name }, source: rule[text] }],
  );
  const base = design.base[text];
  return base?.trim() ? [...rules, { from: "base", rule: null, source: base }] : rules;
}
