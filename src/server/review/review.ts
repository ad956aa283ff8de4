import { type KindDesign } from "../../core/design/design";
import { type Kind, kindWord, type TextName, TEXTS } from "../../core/design/kinds";
import { FORMS } from "../../core/keywords/place";
import { readRobots } from "../../core/design/robots";
import { AddressBook } from "../../core/plan/addresses";
import { ChangeList } from "../../core/plan/change-list";
import {
  CHANGE_GROUPS,
  type ChangeGroup,
  changeGroup,
  LEFT_OUT_AT_FIRST,
  NEVER_APPLIED,
  SLUG_GROUPS,
} from "../../core/plan/groups";
import { Cancelled } from "../../core/proof/prove-set";
import { differs, HAND, type TextProof } from "../../core/proof/text-proof";
import { type Db } from "../../store/open";
import { changeScope, clearChoices, readChoices, type ReviewChoices } from "../../store/review-choices";
import { createRun, type NewChange } from "../../store/runs";
import { type KindData } from "../workspace/kind-data";
import { type EngineWatch, type ProofEngine, type RobotsOf } from "../workspace/proof-engine";

export type Designs = Readonly<Partial<Record<Kind, KindDesign>>>;

/** What of a page a run can change. */
export type ReviewedText = TextName | "robots";

/** A change as the review shows it. */
export interface ReviewedChange {
  readonly id: number;
  readonly kind: Kind;
  readonly text: ReviewedText;
  readonly name: string;
  readonly before: string;
  readonly after: string;
  readonly beforeSize: number;
  readonly afterSize: number;
  readonly beforeFits: boolean;
  readonly afterFits: boolean;
  readonly path: string;
  readonly included: boolean;
}

export interface ReviewGroup {
  readonly group: ChangeGroup;
  readonly count: number;
  readonly included: number;
  /** Whether it can be taken in at all. */
  readonly fixed: boolean;
  readonly byText: Readonly<Record<ReviewedText, number>>;
}

export interface ReviewSummary {
  readonly groups: readonly ReviewGroup[];
  /** Changes that would be applied now. */
  readonly included: number;
  /** Changes that wait to be taken in, or that nobody can take in; texts by hand that stay are none. */
  readonly held: number;
  /** Pages that they change. */
  readonly items: number;
  readonly total: number;
  /** Pages whose address moves, those below a moved page included. */
  readonly moves: number;
  readonly errors: readonly { kind: Kind; text: TextName; message: string }[];
}

/** A text of a kind: what the changes of the list are of. */
interface Unit {
  readonly kind: Kind;
  readonly text: ReviewedText;
  readonly data: KindData;
}

interface Found {
  readonly key: string;
  readonly changes: ChangeList;
  readonly units: readonly Unit[];
  readonly errors: ReviewSummary["errors"];
  /** Where addresses go, and for which choices that was worked out. */
  moves: { readonly key: string; readonly list: readonly Move[] } | null;
}

interface Move {
  readonly id: number;
  readonly from: string;
  readonly to: string;
  readonly revision: number;
}

/** Says of the change at a place whether it is taken in. */
type IsIncluded = (place: number) => boolean;

const REVIEWED: readonly ReviewedText[] = ["robots", ...TEXTS];

/** Live against draft over all kinds: the changes, in groups, and the run that they make. */
export class Review {
  private found: Found | null = null;
  private readonly proofs = new Map<string, TextProof>();
  private readonly robots = new Map<Kind, RobotsOf>();

  constructor(
    private readonly db: Db,
    private readonly engine: ProofEngine,
  ) {}

  summary(designs: Designs, watch: EngineWatch = {}): ReviewSummary {
    const found = this.changes(designs, watch);
    const { changes, units } = found;
    const choices = readChoices(this.db);
    const isIncluded = inclusion(found, choices);
    const rows = new Map(units.map(({ kind, data }) => [kind, new Uint8Array(data.ids.length)]));
    const rowsOf = units.map(({ kind }) => rows.get(kind)!);
    let included = 0;
    const groups = CHANGE_GROUPS.map((group) => {
      const places = changes.ofGroup(group);
      const perUnit = new Int32Array(units.length);
      let taken = 0;
      for (let i = 0; i < places.length; i++) {
        const place = places[i]!;
        const unit = changes.unitOf(place);
        perUnit[unit]!++;
        if (!isIncluded(place)) continue;
        taken++;
        rowsOf[unit]![changes.rowOf(place)] = 1;
      }
      included += taken;
      const byText = { title: 0, description: 0, slug: 0, robots: 0 };
      units.forEach(({ text }, unit) => (byText[text] += perUnit[unit]!));
      return { group, count: places.length, included: taken, fixed: NEVER_APPLIED.has(group), byText };
    });
    const stays = changes.ofGroup("by-hand").length;
    const items = [...rows.values()].reduce((sum, own) => sum + own.reduce((ones, one) => ones + one, 0), 0);
    return {
      groups: groups.filter((group) => group.count > 0),
      included,
      held: changes.length - included - stays,
      items,
      total: changes.length,
      moves: this.moves(found, choices, isIncluded).length,
      errors: found.errors,
    };
  }

  /** A stretch of a group's changes. */
  list(
    designs: Designs,
    query: { group: ChangeGroup; from: number; count: number },
  ): { total: number; changes: ReviewedChange[] } {
    const found = this.changes(designs);
    const isIncluded = inclusion(found, readChoices(this.db));
    const places = found.changes.ofGroup(query.group);
    return {
      total: places.length,
      changes: [...places.subarray(query.from, query.from + query.count)].map((place) =>
        this.shown(found, place, isIncluded(place)),
      ),
    };
  }

  /** Whether a choice is of a change of a group, by its name among the choices. */
  isOfGroup(designs: Designs, group: ChangeGroup): (scope: string) => boolean {
    const { changes, units } = this.changes(designs);
    const scopes = new Set<string>();
    for (const place of changes.ofGroup(group))
      scopes.add(scopeOf(units[changes.unitOf(place)]!, changes.rowOf(place)));
    return (scope) => scopes.has(scope);
  }

  /** Freezes what is taken in as a run. */
  freeze(designs: Designs, now: string): number {
    const choices = readChoices(this.db);
    const found = this.changes(designs);
    const { changes, units } = found;
    const isIncluded = inclusion(found, choices);
    const perKind = new Map<Kind, number>();
    for (let place = 0; place < changes.length; place++) {
      const { kind } = units[changes.unitOf(place)]!;
      if (isIncluded(place)) perKind.set(kind, (perKind.get(kind) ?? 0) + 1);
    }
    if (perKind.size === 0) throw new Error("Nothing is taken in: there is no change to apply");
    const note = [...perKind]
      .map(([kind, count]) => `${count.toLocaleString("en")} for ${kindWord(kind, 2)}`)
      .join(", ");
    const frozen = this.frozen(found, isIncluded, this.moves(found, choices, isIncluded));
    const run = createRun(this.db, { type: "apply", ofRun: null, note, design: JSON.stringify(designs), now }, frozen);
    clearChoices(this.db);
    return run;
  }

  /** The rows of a run: what is taken in, each slug with where its page goes, then the pages that move along. */
  private *frozen(
    { changes, units }: Found,
    isIncluded: IsIncluded,
    all: readonly Move[],
  ): IterableIterator<NewChange> {
    const moves = new Map(all.map((move) => [move.id, move]));
    for (let place = 0; place < changes.length; place++) {
      if (!isIncluded(place)) continue;
      const unit = units[changes.unitOf(place)]!;
      const row = changes.rowOf(place);
      const id = unit.data.ids[row]!;
      const move = unit.text === "slug" ? moves.get(id) : undefined;
      if (move) moves.delete(id);
      yield {
        item_id: id,
        text: unit.text,
        before: before(unit, row),
        after: this.after(unit, row),
        path_before: move?.from ?? null,
        path_after: move?.to ?? null,
        revision: unit.data.revision,
      };
    }
    for (const { id, from, to, revision } of moves.values())
      yield { item_id: id, text: "address", before: "", after: "", path_before: from, path_after: to, revision };
  }

  /** Every page whose address the taken changes move: the changed ones and those below them. Worked out again only where other slugs are taken in. */
  private moves(found: Found, choices: ReviewChoices, isIncluded: IsIncluded): readonly Move[] {
    const key = JSON.stringify([
      SLUG_GROUPS.map((group) => choices.groups.get(group)),
      [...choices.changes].filter(([scope]) => scope.endsWith(":slug")).sort(),
    ]);
    if (found.moves?.key === key) return found.moves.list;
    const list = this.findMoves(found, isIncluded);
    found.moves = { key, list };
    return list;
  }

  private findMoves({ changes, units }: Found, isIncluded: IsIncluded): Move[] {
    const moved = new Map<string, string>();
    const slugs = new Set<number>();
    for (let place = 0; place < changes.length; place++) {
      const unit = units[changes.unitOf(place)]!;
      if (unit.text !== "slug" || !isIncluded(place)) continue;
      const row = changes.rowOf(place);
      const path = unit.data.paths[row]!;
      slugs.add(unit.data.ids[row]!);
      if (path) moved.set(path.length > 1 && path.endsWith("/") ? path.slice(0, -1) : path, this.after(unit, row));
    }
    if (moved.size === 0) return [];
    const book = new AddressBook(moved);
    const moves: Move[] = [];
    const rows = this.db
      .prepare("SELECT id, path, revision FROM items WHERE path IS NOT NULL ORDER BY id")
      .iterate() as IterableIterator<{ id: number; path: string; revision: number }>;
    for (const { id, path, revision } of rows) {
      const to = book.newPath(path);
      if (to !== path || slugs.has(id)) moves.push({ id, from: path, to, revision });
    }
    return moves;
  }

  private after({ kind, text }: Unit, row: number): string {
    return text === "robots" ? this.robots.get(kind)!(row).value : this.proofs.get(`${kind} ${text}`)!.textOf(row);
  }

  private changes(designs: Designs, watch: EngineWatch = {}): Found {
    const kinds = this.engine.boardKinds();
    const key = JSON.stringify([kinds.map((kind) => [designs[kind], this.engine.data(kind, watch).revision])]);
    const known = this.found?.key === key ? this.found : null;
    const changes = new ChangeList();
    const units: Unit[] = [];
    const errors: { kind: Kind; text: TextName; message: string }[] = [];
    this.proofs.clear();
    for (const kind of kinds) {
      const design = designs[kind];
      if (!design) continue;
      this.robots.set(kind, this.engine.robots(kind, design));
      const data = this.engine.data(kind);
      for (const text of REVIEWED) {
        units.push({ kind, text, data });
        if (text === "robots") {
          if (!known) this.collectRobots(data, kind, units.length - 1, changes);
          continue;
        }
        // Asked for even where the changes are known: the engine may have proved another draft meanwhile.
        const { proof, faults } = this.engine.textProof(kind, text, design, watch);
        this.proofs.set(`${kind} ${text}`, proof);
        if (known) continue;
        for (const { rule, message } of faults)
          errors.push({
            kind,
            text,
            message:
              rule === null
                ? message
                : `${message} (rule “${design.rules.find(({ id }) => id === rule)?.name ?? rule}”)`,
          });
        collect(
          { kind, text, data },
          units.length - 1,
          proof,
          this.engine.liveProof(kind, text, watch).proof,
          changes,
          watch,
        );
      }
    }
    this.found = known ?? { key, changes, units, errors, moves: null };
    return this.found;
  }

  private collectRobots(data: KindData, kind: Kind, unit: number, changes: ChangeList): void {
    const { codes, table } = data.items.column("robots");
    const live = table.values.map(readRobots);
    const robotsOf = this.robots.get(kind)!;
    for (let row = 0; row < codes.length; row++)
      if (robotsOf(row).value !== live[codes[row]!]) changes.add(unit, row, "robots");
  }

  private shown({ changes, units }: Found, place: number, included: boolean): ReviewedChange {
    const unit = units[changes.unitOf(place)]!;
    const row = changes.rowOf(place);
    const { kind, text, data } = unit;
    const common = {
      id: data.ids[row]!,
      kind,
      text,
      name: data.items.value("name", row),
      path: data.paths[row]!,
      included,
    };
    if (text === "robots") {
      const [from, to] = [before(unit, row), this.after(unit, row)];
      return {
        ...common,
        before: from,
        after: to,
        beforeSize: from.length,
        afterSize: to.length,
        beforeFits: true,
        afterFits: true,
      };
    }
    const proof = this.proofs.get(`${kind} ${text}`)!;
    const live = this.engine.liveProof(kind, text).proof;
    return {
      ...common,
      before: live.textOf(row),
      after: proof.textOf(row),
      beforeSize: live.sizes[row]!,
      afterSize: proof.sizes[row]!,
      beforeFits: live.fits[row] === 1,
      afterFits: text === "slug" || proof.fits[row] === 1,
    };
  }
}

function before({ text, data }: Unit, row: number): string {
  return text === "robots" ? data.items.value("robots", row) : data.live[text][row]!;
}

/** The name of a change among the choices. */
function scopeOf({ data, text }: Unit, row: number): string {
  return changeScope(data.ids[row]!, text);
}

function inclusion({ changes, units }: Found, choices: ReviewChoices): IsIncluded {
  const groups = new Map(
    CHANGE_GROUPS.map((group) => [
      group,
      !NEVER_APPLIED.has(group) && (choices.groups.get(group) ?? !LEFT_OUT_AT_FIRST.has(group)),
    ]),
  );
  // Single choices are few beside the changes: they are looked up by their pages before their names are put together.
  const chosen = new Set([...choices.changes.keys()].map((scope) => Number.parseInt(scope, 10)));
  return (place) => {
    const group = changes.groupOf(place);
    if (chosen.size === 0 || NEVER_APPLIED.has(group)) return groups.get(group)!;
    const unit = units[changes.unitOf(place)]!;
    const row = changes.rowOf(place);
    return (
      (chosen.has(unit.data.ids[row]!) ? choices.changes.get(scopeOf(unit, row)) : undefined) ?? groups.get(group)!
    );
  };
}

/** Puts what a text's lines change in the list. */
function collect(
  { kind, text, data }: Unit & { text: TextName },
  unit: number,
  proof: TextProof,
  live: TextProof,
  changes: ChangeList,
  watch: EngineWatch,
): void {
  const hasKeyword = (p: TextProof, row: number) => {
    const form = FORMS[p.form[row]! - 1];
    return (form === "exact" || form === "variant") && p.keywordSeen[row] === 1;
  };
  for (let row = 0; row < proof.size; row++) {
    if (row % 4096 === 0) {
      if (watch.cancelled?.()) throw new Cancelled();
      watch.progress?.({ step: "comparing", kind, text, side: null, share: row / proof.size });
    }
    const written = proof.from[row] === HAND && differs(proof, live, row);
    const byHand = proof.from[row] === HAND && !written;
    // Nothing is ever replaced by nothing, and what stays is no change; a text by hand is listed to say that it stays.
    if (!byHand && (proof.lengths[row] === 0 || !differs(proof, live, row))) continue;
    if (text === "slug" && data.paths[row] === "") continue;
    const group = changeGroup({
      slug: text === "slug",
      byHand,
      written,
      liveEmpty: live.lengths[row] === 0,
      liveFits: live.fits[row] === 1,
      // A slug whose words were cut is within its limit all the same.
      fits: text === "slug" || proof.fits[row] === 1,
      liveDuplicate: live.groups.countOf(row) > 1,
      duplicate: proof.groups.countOf(row) > 1,
      liveHasKeyword: hasKeyword(live, row),
      hasKeyword: hasKeyword(proof, row),
    });
    changes.add(unit, row, group);
  }
}
