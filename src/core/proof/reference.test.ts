import { SLUG_DEFAULTS } from "../slugs/options";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type FieldNode, type Node, type PieceNode } from "../lines/ast";
import { MOST_CHARACTERS } from "../lines/filters";
import { parseLine } from "../lines/parse";
import { compileLine } from "../lines/program";
import { type Part, tidyParts } from "../lines/tidy";
import { surfaceById } from "../measure/surface";
import { decide, type DecidingRule } from "../rules/decide";
import { languageByTag } from "../text/language";
import { Vocabulary } from "../keywords/place";
import { constantColumn, type ItemRecord, itemSetOf } from "./items";
import { type ProofSource, proveSet } from "./prove-set";
import { proveLine } from "./prove-line";
import { LINE_FIELDS, randomItem as item, randomLine as line } from "../../test/random-lines";
import { roomFor } from "./room";
import { type TextProof } from "./text-proof";

/** How many random lines and items; `FUZZ` asks for more. */
const RUNS = Number(process.env["FUZZ"] ?? 1500);

/**
 * A plain, slow reading of the contract's pieces: which of them stand for an item in so many characters, worked out from the line as it was parsed,
 * one step after another, with nothing laid out beforehand.
 */
class Reference {
  private readonly chosen = new Map<PieceNode, number>();

  constructor(
    private readonly nodes: readonly Node[],
    private readonly record: ItemRecord,
    private readonly max: number,
  ) {}

  read(): { text: string; fits: boolean } {
    this.begin(this.nodes);
    for (const one of this.order(this.nodes)) {
      if (this.fits()) break;
      this.giveWay(one);
    }
    if (this.text().length > MOST_CHARACTERS) return { text: "", fits: true };
    return { text: this.text(), fits: this.fits() };
  }

  /** Each piece stands with its first complete alternative, and the pieces inside that begin likewise. */
  private begin(nodes: readonly Node[]): void {
    for (const node of nodes) if (node.type === "piece") this.step(node, 0);
  }

  private step(one: PieceNode, from: number): void {
    const next = one.alternatives.findIndex((nodes, i) => i >= from && this.isComplete(nodes));
    this.chosen.set(one, next);
    if (next >= 0) this.begin(one.alternatives[next]!);
  }

  private isComplete(nodes: readonly Node[]): boolean {
    return nodes.every((node) => node.type !== "field" || this.value(node) !== "");
  }

  private value(node: FieldNode): string {
    const source = node.sources[0]!;
    return source.type === "name" ? ((this.record[source.name] as string | undefined) ?? "") : source.value;
  }

  /** Steps a piece down until it fits or is off; the pieces inside the alternative that it comes to give way first. */
  private giveWay(one: PieceNode): void {
    while ((this.chosen.get(one) ?? -1) >= 0 && !this.fits()) {
      this.step(one, this.chosen.get(one)! + 1);
      const at = this.chosen.get(one)!;
      if (at < 0) return;
      for (const inner of this.order(one.alternatives[at]!)) if (!this.fits()) this.giveWay(inner);
    }
  }

  /** Numbered ones by number, then the others, the rightmost first; an inner one before the one around it. */
  private order(nodes: readonly Node[]): PieceNode[] {
    const found: { one: PieceNode; rank: number }[] = [];
    const rankOf = ({ caret: own }: PieceNode) => (own?.type === "order" ? own.order : Infinity);
    const walk = (inside: readonly Node[], latest: number) => {
      const pieces = inside.filter((node) => node.type === "piece").reverse();
      for (const one of pieces.sort((a, b) => rankOf(a) - rankOf(b) || 0)) {
        const rank = Math.min(rankOf(one), latest);
        for (const alternative of one.alternatives) walk(alternative, rank);
        if (one.caret?.type !== "keep") found.push({ one, rank });
      }
    };
    walk(nodes, Infinity);
    return found.sort((a, b) => (a.rank === b.rank ? 0 : a.rank - b.rank)).map(({ one }) => one);
  }

  private parts(nodes: readonly Node[], values: string[]): Part[] {
    return nodes.flatMap((node): Part[] => {
      if (node.type === "text") return [node.value];
      if (node.type === "field") return this.value(node) === "" ? [] : [values.push(this.value(node)) - 1];
      const at = this.chosen.get(node) ?? -1;
      return at < 0 ? [] : this.parts(node.alternatives[at]!, values);
    });
  }

  private text(): string {
    const values: string[] = [];
    return tidyParts(this.parts(this.nodes, values))
      .map((part) => (typeof part === "number" ? values[part]! : part))
      .join("");
  }

  private fits(): boolean {
    return [...this.text()].length <= this.max;
  }
}

function expectAsRead(source: string, record: ItemRecord, max: number): void {
  const parsed = parseLine(source);
  if (parsed.errors.length > 0) return;
  const [made] = proveLine(parsed, itemSetOf([record]), { limits: { surfaces: [], chars: max } });
  const { text, fits } = new Reference(parsed.nodes, record, max).read();
  expect({ text: made!.text, fits: made!.fits }).toEqual({ text, fits });
}

describe("what lines make of items", () => {
  it("is what a plain reading of the contract makes of them", () => {
    fc.assert(fc.property(line, item, fc.integer({ min: 4, max: 70 }), expectAsRead), { numRuns: RUNS });
  });

  it("is nothing where it comes to more than 10,000 characters, as in the plain reading", () => {
    const long = fc.constantFrom("", "short", "a ".repeat(2500).trim(), "b".repeat(4990), "c".repeat(5005));
    const record = fc.record(Object.fromEntries(LINE_FIELDS.map((name) => [name, long])));
    fc.assert(fc.property(line, record, fc.constantFrom(40, 9_000, 50_000), expectAsRead), {
      numRuns: Math.ceil(RUNS / 10),
    });
  });

  it("is of the whole set what it is of each page alone: text, width, place and all", () => {
    const rule = fc.record({ title: fc.option(line, { nil: undefined }), has: fc.constantFrom(...LINE_FIELDS) });
    const columns = ["lengths", "sizes", "fits", "form", "keywordAt", "keywordSeen", "emptyFields", "from"] as const;
    fc.assert(
      fc.property(
        fc.array(item, { minLength: 1, maxLength: 6 }),
        line,
        fc.array(rule, { maxLength: 3 }),
        fc.constantFrom("title", "slug"),
        (records, base, rules, text) => {
          const lines: DecidingRule[] = rules.map(({ title, has }, i) => ({
            name: `r${i}`,
            when: { field: has, "is filled": true },
            ...(title === undefined ? {} : { [text]: title }),
          }));
          const prove = (own: readonly ItemRecord[]): TextProof => {
            const items = itemSetOf(own);
            const decided = decide(lines, { [text]: base }, text as "title", items);
            const slug = text === "slug" ? { options: SLUG_DEFAULTS, language: languageByTag("en") } : null;
            const source: ProofSource = {
              text: text as "title",
              items,
              room: roomFor({ surfaces: slug ? [] : [surfaceById("desktop-title")!], chars: slug ? null : 40 }),
              slug,
              live: own.map(() => ""),
              hand: new Map(),
              folders: constantColumn(own.length, "/"),
              keywords: items.column("keyword"),
              vocabulary: new Vocabulary(languageByTag("en")),
            };
            return proveSet(source, {
              lines: decided.lines.map(({ source: written, from }) => {
                const parsed = parseLine(written);
                return { from, program: parsed.errors.length > 0 ? null : compileLine(parsed) };
              }),
              decides: decided.decides,
            });
          };
          const whole = prove(records);
          records.forEach((record, row) => {
            const alone = prove([record]);
            expect(whole.textOf(row)).toBe(alone.textOf(0));
            for (const column of columns)
              expect(whole[column][row], `${column} of ${whole.textOf(row)}`).toBe(alone[column][0]);
          });
        },
      ),
      { numRuns: Math.ceil(RUNS / 5) },
    );
  });
});
