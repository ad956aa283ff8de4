import { findingBit, FINDINGS, type Side, SUBJECTS } from "../../core/checks/findings";
import { type TextName } from "../../core/design/kinds";
import { type ItemGroup, type ItemQuery, type ItemSection, type ITEM_SORTS } from "../../core/items/query";
import { HAND } from "../../core/proof/text-proof";
import { type KindView, type SiteViews, viewOf } from "./site-views";
import { byKeys, sortKey, type SortRanks } from "./sort-ranks";
import { capital } from "../../core/text/capital";

type NamedSort = (typeof ITEM_SORTS)[number];
type WordSort = Extract<NamedSort, `${TextName}-words`>;

/** What pages are put in order by: a whole number for each row of a kind. `null`: as the site has them. */
const FIGURES = {
  site: null,
  title: (view, side) => byWidth(view, side, "title"),
  description: (view, side) => byWidth(view, side, "description"),
  slug: (view, side) => byWidth(view, side, "slug"),
  findings:
    ({ found }, side) =>
    (row) =>
      SUBJECTS.reduce((sum, subject) => sum + bitCount(found[side][subject][row]!), 0),
} satisfies Record<Exclude<NamedSort, WordSort>, ((view: KindView, side: Side) => (row: number) => number) | null>;

/** The texts whose words pages are put in order by. */
const WORDS = {
  "title-words": "title",
  "description-words": "description",
  "slug-words": "slug",
} as const satisfies Record<WordSort, TextName>;

function byWidth(view: KindView, side: Side, text: TextName): (row: number) => number {
  const { sizes } = view[side][text];
  return (row) => Math.round(sizes[row]! * 100);
}

/** Pages in the order that a query asks for. */
export function sortPages(rows: Int32Array, views: SiteViews, query: ItemQuery, ranks: SortRanks): Int32Array {
  const { sort, side, down } = query;
  if (sort.startsWith("field:")) return byField(rows, views, sort.slice("field:".length), down, ranks);
  if (Object.hasOwn(WORDS, sort)) return byWords(rows, views, WORDS[sort as WordSort], side, down);
  const of = FIGURES[sort as Exclude<NamedSort, WordSort>];
  if (of === null) return down ? rows.slice().reverse() : rows;
  const keys = new Float64Array(views.total);
  for (const view of views.kinds) {
    const key = of(view, side);
    for (let row = 0; row < view.data.ids.length; row++) keys[view.start + row] = key(row);
  }
  return byKeys(rows, keys, down);
}

function byField(rows: Int32Array, views: SiteViews, field: string, down: boolean, ranks: SortRanks): Int32Array {
  const columns = views.kinds.map(({ data: { items } }) => ({ ...items.column(field), format: items.formatOf(field) }));
  const keys = new Float64Array(views.total);
  ranks.of(columns).forEach((own, v) => {
    const { codes } = columns[v]!;
    const { start } = views.kinds[v]!;
    // Pages without a value come last, whichever way the others go.
    const last = down ? -1 : own[0]!;
    for (let row = 0; row < codes.length; row++) keys[start + row] = codes[row] === 0 ? last : own[codes[row]!]!;
  });
  return byKeys(rows, keys, down);
}

/** From A to Z by a text, pages without it last whichever way the others go; those that read the same as they come. */
function byWords(rows: Int32Array, views: SiteViews, text: TextName, side: Side, down: boolean): Int32Array {
  const without: number[] = [];
  const keys: string[] = [];
  rows.forEach((number, place) => {
    const view = viewOf(views, number);
    const own = view[side][text].textOf(number - view.start);
    if (own === "") without.push(number);
    // The place behind the words, so that the engine's own sort of texts can be used.
    else keys.push(`${sortKey(own)}\u0000${String(down ? rows.length - place : place).padStart(8, "0")}`);
  });
  keys.sort();
  if (down) keys.reverse();
  const placeOf = (key: string) => Number(key.slice(key.lastIndexOf("\u0000") + 1));
  const sorted = keys.map((key) => rows[down ? rows.length - placeOf(key) : placeOf(key)]!);
  return Int32Array.from([...sorted, ...without]);
}

/** Gives a label's section a number. */
type SectionOf = (label: string) => number;
/** Says in which sections a row of a kind stands. */
type Sections = (row: number, put: (section: number) => void) => void;
type InOrder = "as they come" | "by label" | "largest first" | "largest first, the first one last";

interface Grouping {
  readonly order: InOrder;
  readonly sections: (view: KindView, side: Side, section: SectionOf) => Sections;
}

/** Pages that read the same stand together, by a text; all others follow. */
function same(text: "title" | "description"): Grouping {
  const bit = findingBit(text, "duplicate");
  return {
    order: "largest first, the first one last",
    sections: ({ found, ...view }, side, section) => {
      const alone = section(`Every other page: no ${text}, or one of its own`);
      const bits = found[side][text];
      const { textOf, size } = view[side][text];
      const numbers = new Int32Array(size).fill(alone);
      for (let row = 0; row < size; row++) if ((bits[row]! & bit) !== 0) numbers[row] = section(textOf(row));
      return (row, put) => put(numbers[row]!);
    },
  };
}

/** What pages are put together by. */
const GROUPS = {
  "same-title": same("title"),
  "same-description": same("description"),
  kind: {
    order: "as they come",
    sections: ({ word }, _, section) => {
      const own = section(capital(word));
      return (_row, put) => put(own);
    },
  },
  category: {
    order: "by label",
    sections: ({ data }, _, section) => {
      const path = data.items.column("category.path");
      const { codes, table } = path.table.values.length > 1 ? path : data.items.column("category");
      const numbers = table.values.map((value) => section(value === "" ? "Without a category" : value));
      return (row, put) => put(numbers[codes[row]!]!);
    },
  },
  rule: {
    order: "largest first",
    sections: ({ decision, draft }, _, section) => {
      const byHand = section("Title by hand");
      const none = section("No line sets the title");
      const numbers = decision.lines.map((line) => section(line.rule?.name ?? "Everything else"));
      const { from, line } = draft.title;
      return (row, put) => put(from[row] === HAND ? byHand : (numbers[line[row]!] ?? none));
    },
  },
  finding: {
    order: "largest first",
    sections: ({ found }, side, section) => {
      const inOrder = section("In order");
      const numbers = SUBJECTS.map((subject) =>
        FINDINGS[subject].map(({ label }) => section(`${capital(subject)}: ${label}`)),
      );
      const bits = SUBJECTS.map((subject) => found[side][subject]);
      return (row, put) => {
        let any = false;
        for (let s = 0; s < bits.length; s++)
          for (let rest = bits[s]![row]!; rest !== 0; rest &= rest - 1) {
            put(numbers[s]![31 - Math.clz32(rest & -rest)]!);
            any = true;
          }
        if (!any) put(inOrder);
      };
    },
  },
} satisfies Record<ItemGroup, Grouping>;

/** Puts pages together by what they share; one with several findings stands with each. */
export function groupPages(
  sorted: Int32Array,
  views: SiteViews,
  { group, side }: { readonly group: ItemGroup; readonly side: Side },
): { rows: Int32Array; sections: ItemSection[] } {
  const labels: string[] = [];
  const numbers = new Map<string, number>();
  const section = (label: string) => {
    let number = numbers.get(label);
    if (number === undefined) {
      numbers.set(label, (number = labels.length));
      labels.push(label);
    }
    return number;
  };
  // For each page the numbers of its sections: counted first, then laid out, so that nothing is moved twice.
  const byView = views.kinds.map((view) => GROUPS[group].sections(view, side, section));
  const viewAt = new Uint8Array(views.total);
  views.kinds.forEach(({ start, data }, v) => viewAt.fill(v, start, start + data.ids.length));
  const counts = new Int32Array(labels.length);
  const each = (put: (number: number, section: number) => void) => {
    for (let i = 0; i < sorted.length; i++) {
      const number = sorted[i]!;
      const v = viewAt[number]!;
      byView[v]!(number - views.kinds[v]!.start, (own) => put(number, own));
    }
  };
  each((_, own) => counts[own]!++);
  const order = sectionOrder(labels, counts, GROUPS[group].order);
  const starts = new Int32Array(labels.length);
  let total = 0;
  for (const i of order) {
    starts[i] = total;
    total += counts[i]!;
  }
  const rows = new Int32Array(total);
  each((number, own) => {
    rows[starts[own]!++] = number;
  });
  return { rows, sections: order.map((i) => ({ label: labels[i]!, count: counts[i]! })) };
}

const byLabel = new Intl.Collator("en", { numeric: true }).compare;

function sectionOrder(labels: readonly string[], counts: Int32Array, order: InOrder): number[] {
  const filled = labels.map((_, i) => i).filter((i) => counts[i]! > 0);
  if (order === "by label") filled.sort((a, b) => byLabel(labels[a]!, labels[b]!));
  if (order.startsWith("largest first")) filled.sort((a, b) => counts[b]! - counts[a]!);
  if (order === "largest first, the first one last") filled.sort((a, b) => Number(a === 0) - Number(b === 0));
  return filled;
}

function bitCount(bits: number): number {
  let count = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++;
  return count;
}
