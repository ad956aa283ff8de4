import { type KindDesign } from "../core/design/design";
import { type Kind, kindWord, type TextName, TEXTS } from "../core/design/kinds";
import { FORMS } from "../core/keywords/place";
import { readRobots } from "../core/design/robots";
import { AddressBook } from "../core/plan/addresses";
import { CHANGE_GROUPS, type ChangeGroup, changeGroup, LEFT_OUT_AT_FIRST, NEVER_APPLIED } from "../core/plan/groups";
import { differs, HAND, type TextProof } from "../core/proof/text-proof";
import { type Db } from "../store/open";
import { changeScope, clearChoices, readChoices, type ReviewChoices } from "../store/review-choices";
import { createRun, type NewChange } from "../store/runs";
import { type KindData } from "./kind-data";
import { type ProofEngine, type RobotsOf } from "./proof-engine";

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
  /** Pages that they change. */
  readonly items: number;
  readonly total: number;
  /** Pages whose address moves, those below a moved page included. */
  readonly moves: number;
  readonly errors: readonly { kind: Kind; text: TextName; message: string }[];
}

interface Found {
  readonly id: number;
  readonly kind: Kind;
  readonly text: ReviewedText;
  readonly row: number;
  readonly group: ChangeGroup;
}

/** Live against draft over all kinds: the changes, in groups, and the run that they make. */
export class Review {
  private found: { key: string; changes: Found[]; errors: ReviewSummary["errors"] } | null = null;

  constructor(
    private readonly db: Db,
    private readonly engine: ProofEngine,
  ) {}

  summary(designs: Designs): ReviewSummary {
    const { changes, errors } = this.changes(designs);
    const choices = readChoices(this.db);
    const groups = CHANGE_GROUPS.map((group) => ({ group, count: 0, included: 0, fixed: NEVER_APPLIED.has(group), byText: { title: 0, description: 0, slug: 0, robots: 0 } }));
    const byName = new Map(groups.map((group) => [group.group, group]));
    const items = new Set<number>();
    let included = 0;
    for (const change of changes) {
      const group = byName.get(change.group)!;
      group.count++;
      group.byText[change.text]++;
      if (this.isIncluded(change, choices)) {
        group.included++;
        included++;
        items.add(change.id);
      }
    }
    return { groups: groups.filter((group) => group.count > 0), included, items: items.size, total: changes.length, moves: this.moves(changes, choices).length, errors };
  }

  /** A stretch of a group's changes. */
  list(designs: Designs, query: { group: ChangeGroup; from: number; count: number }): { total: number; changes: ReviewedChange[] } {
    const choices = readChoices(this.db);
    const members = this.changes(designs).changes.filter((change) => change.group === query.group);
    const changes = members.slice(query.from, query.from + query.count).map((change) => this.shown(change, choices));
    return { total: members.length, changes };
  }

  /** The names of a group's changes among the choices. */
  scopes(designs: Designs, group: ChangeGroup): string[] {
    return this.changes(designs).changes.filter((change) => change.group === group).map((change) => this.scope(change));
  }

  /** Freezes what is taken in as a run. */
  freeze(designs: Designs, now: string): number {
    const choices = readChoices(this.db);
    const { changes } = this.changes(designs);
    const taken = changes.filter((change) => this.isIncluded(change, choices));
    if (taken.length === 0) throw new Error("Nothing is taken in: there is no change to apply");
    const moves = new Map(this.moves(changes, choices).map((move) => [move.id, move]));
    const sets = new Map(this.engine.boardKinds().map((kind) => [kind, this.engine.data(kind)]));
    const frozen: NewChange[] = [];
    for (const change of taken) {
      const data = sets.get(change.kind)!;
      const { id } = change;
      const move = change.text === "slug" ? moves.get(id) : undefined;
      if (move) moves.delete(id);
      frozen.push({
        item_id: id,
        text: change.text,
        before: this.before(change),
        after: this.after(change),
        path_before: move?.from ?? null,
        path_after: move?.to ?? null,
        revision: data.revision,
      });
    }
    for (const { id, from, to, revision } of moves.values()) frozen.push({ item_id: id, text: "address", before: "", after: "", path_before: from, path_after: to, revision });
    const perKind = new Map<Kind, number>();
    for (const change of taken) perKind.set(change.kind, (perKind.get(change.kind) ?? 0) + 1);
    const note = [...perKind].map(([kind, count]) => `${count.toLocaleString("en")} for ${kindWord(kind, 2)}`).join(", ");
    const run = createRun(this.db, { type: "apply", ofRun: null, note, design: JSON.stringify(designs), now }, frozen);
    clearChoices(this.db);
    return run;
  }

  /** Every page whose address the taken changes move: the changed ones and those below them. */
  private moves(changes: readonly Found[], choices: ReviewChoices): { id: number; from: string; to: string; revision: number }[] {
    const moved = new Map<string, string>();
    const slugs = new Set<number>();
    const paths = new Map(this.engine.boardKinds().map((kind) => [kind, this.engine.data(kind).paths]));
    for (const change of changes) {
      if (change.text !== "slug" || !this.isIncluded(change, choices)) continue;
      const path = paths.get(change.kind)![change.row]!;
      slugs.add(change.id);
      if (path) moved.set(path.length > 1 && path.endsWith("/") ? path.slice(0, -1) : path, this.after(change));
    }
    if (moved.size === 0) return [];
    const book = new AddressBook(moved);
    const moves: { id: number; from: string; to: string; revision: number }[] = [];
    const rows = this.db.prepare("SELECT id, path, revision FROM items WHERE path IS NOT NULL ORDER BY id").iterate() as IterableIterator<{ id: number; path: string; revision: number }>;
    for (const { id, path, revision } of rows) {
      const to = book.newPath(path);
      if (to !== path || slugs.has(id)) moves.push({ id, from: path, to, revision });
    }
    return moves;
  }

  private before({ kind, text, row }: Found): string {
    const data = this.engine.data(kind);
    return text === "robots" ? data.items.value("robots", row) : data.live[text][row]!;
  }

  private after(change: Found): string {
    if (change.text === "robots") return this.robots.get(change.kind)!(change.row).value;
    return this.proofs.get(`${change.kind} ${change.text}`)!.textOf(change.row);
  }

  private readonly proofs = new Map<string, TextProof>();
  private readonly robots = new Map<Kind, RobotsOf>();

  private changes(designs: Designs): { changes: Found[]; errors: ReviewSummary["errors"] } {
    const kinds = this.engine.boardKinds();
    const key = JSON.stringify([kinds.map((kind) => [designs[kind], this.engine.data(kind).revision])]);
    const known = this.found?.key === key ? this.found : null;
    const changes: Found[] = [];
    const errors: { kind: Kind; text: TextName; message: string }[] = [];
    this.proofs.clear();
    for (const kind of kinds) {
      const design = designs[kind];
      if (!design) continue;
      this.robots.set(kind, this.engine.robots(kind, design));
      if (!known) this.collectRobots(kind, changes);
      for (const text of TEXTS) {
        // Asked for even where the changes are known: the engine may have proved another draft meanwhile.
        const { proof, faults } = this.engine.textProof(kind, text, design);
        this.proofs.set(`${kind} ${text}`, proof);
        if (known) continue;
        for (const { rule, message } of faults) errors.push({ kind, text, message: rule === null ? message : `${message} (rule “${design.rules.find(({ id }) => id === rule)?.name ?? rule}”)` });
        this.collect(this.engine.data(kind), kind, text, proof, this.engine.liveProof(kind, text).proof, changes);
      }
    }
    this.found = known ?? { key, changes, errors };
    return this.found;
  }

  private collectRobots(kind: Kind, changes: Found[]): void {
    const data = this.engine.data(kind);
    const { codes, table } = data.items.column("robots");
    const live = table.values.map(readRobots);
    const robotsOf = this.robots.get(kind)!;
    for (let row = 0; row < codes.length; row++) if (robotsOf(row).value !== live[codes[row]!]) changes.push({ id: data.ids[row]!, kind, text: "robots", row, group: "robots" });
  }

  private collect(data: KindData, kind: Kind, text: TextName, proof: TextProof, live: TextProof, changes: Found[]): void {
    const hasKeyword = (p: TextProof, row: number) => {
      const form = FORMS[p.form[row]! - 1];
      return (form === "exact" || form === "variant") && p.keywordSeen[row] === 1;
    };
    for (let row = 0; row < proof.size; row++) {
      const written = proof.from[row] === HAND && differs(proof, live, row);
      const byHand = proof.from[row] === HAND && !written;
      // Nothing is ever replaced by nothing, and what stays is no change; a text by hand is listed to say that it stays.
      if (!byHand && (proof.lengths[row] === 0 || !differs(proof, live, row))) continue;
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
      if (text === "slug" && data.paths[row] === "") continue;
      changes.push({ id: data.ids[row]!, kind, text, row, group });
    }
  }

  private isIncluded(change: Found, choices: ReviewChoices): boolean {
    if (NEVER_APPLIED.has(change.group)) return false;
    return choices.changes.get(this.scope(change)) ?? choices.groups.get(change.group) ?? !LEFT_OUT_AT_FIRST.has(change.group);
  }

  private scope(change: Found): string {
    return changeScope(change.id, change.text);
  }

  private shown(change: Found, choices: ReviewChoices): ReviewedChange {
    const data = this.engine.data(change.kind);
    if (change.text === "robots") {
      const [before, after] = [this.before(change), this.after(change)];
      return { id: change.id, kind: change.kind, text: "robots", name: data.items.value("name", change.row), before, after, beforeSize: before.length, afterSize: after.length, beforeFits: true, afterFits: true, path: data.paths[change.row]!, included: this.isIncluded(change, choices) };
    }
    const proof = this.proofs.get(`${change.kind} ${change.text}`)!;
    const live = this.engine.liveProof(change.kind, change.text).proof;
    const { row } = change;
    return {
      id: data.ids[row]!,
      kind: change.kind,
      text: change.text,
      name: data.items.value("name", row),
      before: live.textOf(row),
      after: proof.textOf(row),
      beforeSize: live.sizes[row]!,
      afterSize: proof.sizes[row]!,
      beforeFits: live.fits[row] === 1,
      afterFits: change.text === "slug" || proof.fits[row] === 1,
      path: data.paths[row]!,
      included: this.isIncluded(change, choices),
    };
  }
}
