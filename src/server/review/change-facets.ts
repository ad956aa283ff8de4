import { findingBit, FINDINGS, type FindingId, type Subject, SUBJECTS } from "../../core/checks/findings";
import { type Kind } from "../../core/design/kinds";
import { ownerKey } from "../../core/plan/review-filter";
import { HAND, LIVE } from "../../core/proof/text-proof";
import { type Column } from "../../core/proof/items";
import { type SiteViews } from "../items/site-views";
import { type FoundChanges, pageRow, type Unit } from "./found-changes";
import { capital } from "../../core/text/capital";

/** Between the names of a category's path. */
const BELOW = " › ";

/** A way to part the changes, with how many of them it takes. */
export interface Facet {
  /** As a filter has it. */
  readonly of: string;
  readonly label: string;
  readonly count: number;
}

/** What changes can be filtered by beside kinds and texts, whatever the filter. */
export interface ReviewFacets {
  readonly rules: readonly (Facet & { readonly kind: Kind })[];
  /** Each with all that is below it. */
  readonly categories: readonly Facet[];
  readonly findings: readonly Facet[];
}

/** @example findingKey("title", "too-wide") // "title too-wide" */
export function findingKey(subject: Subject, id: FindingId): string {
  return `${subject} ${id}`;
}

/** The finding that a filter names; `null` for none that there is. */
export function findingOf(key: string): { readonly subject: Subject; readonly bit: number } | null {
  const subject = SUBJECTS.find((own) => key.startsWith(`${own} `));
  const id = subject && FINDINGS[subject].find((own) => findingKey(subject, own.id) === key)?.id;
  return subject && id ? { subject, bit: findingBit(subject, id) } : null;
}

/** The column that says which category a kind's pages are in. */
export function categoryColumn({ data: { items } }: Pick<Unit, "data">): Column {
  const path = items.column("category.path");
  return path.table.values.length > 1 ? path : items.column("category");
}

/** Whether a category is another or below it. */
export function isWithin(path: string, category: string): boolean {
  return path === category || path.startsWith(category + BELOW);
}

/** Whose line makes a change's text, as a filter names it. */
export function ownerOf(unit: Unit, row: number): string {
  if (unit.text === "body") return ownerKey(unit.kind, "hand");
  if (unit.text === "robots") {
    const { from, owner } = unit.robots(row);
    return ownerKey(unit.kind, from === "hand" ? "hand" : owner);
  }
  const { from, line } = unit.draft;
  if (from[row] === HAND) return ownerKey(unit.kind, "hand");
  return ownerKey(unit.kind, from[row] === LIVE ? "live" : unit.owners[line[row]!]!);
}

/** Counts all changes by what they can be filtered by. */
export function facetsOf({ changes, units }: FoundChanges, views: SiteViews): ReviewFacets {
  const rules = new Map<string, number>();
  const categories = new Map<string, number>();
  const findings = SUBJECTS.map(() => new Int32Array(32));
  const add = (to: Map<string, number>, key: string) => to.set(key, (to.get(key) ?? 0) + 1);
  const columns = units.map(categoryColumn);
  const found = units.map(({ kind }) => views.kinds.find((view) => view.kind === kind)!.found.live);
  for (let place = 0; place < changes.length; place++) {
    const number = changes.unitOf(place);
    const unit = units[number]!;
    const row = changes.rowOf(place);
    const page = pageRow(unit, row);
    add(rules, ownerOf(unit, row));
    const { codes, table } = columns[number]!;
    add(categories, table.values[codes[page]!]!);
    SUBJECTS.forEach((subject, s) => {
      for (let rest = found[number]![subject][page]!; rest !== 0; rest &= rest - 1)
        findings[s]![31 - Math.clz32(rest & -rest)]!++;
    });
  }
  return { rules: ruleFacets(units, rules), categories: withThoseBelow(categories), findings: findingFacets(findings) };
}

/** In the order in which rules are asked, then the base, then what is by hand. */
function ruleFacets(units: readonly Unit[], counts: ReadonlyMap<string, number>): ReviewFacets["rules"] {
  const rulesOf = new Map(units.map(({ kind, rules }) => [kind, rules]));
  return [...rulesOf].flatMap(([kind, rules]) =>
    [...rules, { id: "base", name: "Everything else" }, { id: "hand", name: "Written by hand" }].flatMap(
      ({ id, name: label }) => {
        const of = ownerKey(kind, id);
        const count = counts.get(of) ?? 0;
        return count > 0 ? [{ of, kind, label, count }] : [];
      },
    ),
  );
}

function withThoseBelow(counts: ReadonlyMap<string, number>): Facet[] {
  const all = new Map<string, number>();
  for (const [path, count] of counts) {
    if (path === "") continue;
    const names = path.split(BELOW);
    names.forEach((_, i) => {
      const own = names.slice(0, i + 1).join(BELOW);
      all.set(own, (all.get(own) ?? 0) + count);
    });
  }
  return [...all].map(([of, count]) => ({ of, label: of, count })).sort((a, b) => (a.of < b.of ? -1 : 1));
}

/** @param counts by subject and number of the finding. */
function findingFacets(counts: readonly Int32Array[]): Facet[] {
  return SUBJECTS.flatMap((subject, s) =>
    FINDINGS[subject].flatMap(({ id, label }, number) => {
      const count = counts[s]![number]!;
      return count > 0
        ? [{ of: findingKey(subject, id), label: `${capital(subject)}: ${label.toLowerCase()}`, count }]
        : [];
    }),
  );
}
