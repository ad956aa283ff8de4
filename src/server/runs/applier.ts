import { movedCanonical } from "../../core/addresses/canonical";
import { readBody } from "../../store/items";
import { type Db } from "../../store/open";
import { type ChangedText, type ChangeTrouble, countRun, readRun } from "../../store/runs";
import { nextRevision, readSite } from "../../store/site";
import { BodyTags } from "./body-tags";
import { type Moved, redirectWriter } from "./redirect-writer";
import { skipFollowing } from "./settle-moves";

/** How many items one transaction changes: few enough to be quick, so that a stop is heard and a kill loses little. */
const CHUNK = 2000;

/** A waiting change with what its item reads now. */
interface WaitingChange {
  readonly id: number;
  readonly item: number;
  readonly text: ChangedText;
  readonly before: string;
  readonly after: string;
  readonly from: string | null;
  readonly to: string | null;
  readonly isGone: boolean;
  /** What the text is now; of an address the path. */
  readonly reads: string;
  readonly path: string | null;
  readonly hand: string | null;
  /** Of an image or a link: which of the body's it is, from 1, the image's address, and its tag before the run. */
  readonly tag: { readonly part: number; readonly src: string; readonly original: string | null } | null;
}

type Row = [
  number,
  number,
  ChangedText,
  string,
  string,
  string | null,
  string | null,
  number,
  string,
  string | null,
  string | null,
  number | null,
  string | null,
  string | null,
];

const SELECT = `
  SELECT change.id, change.item_id, change.text, change.before, change.after, change.path_before, change.path_after, items.id IS NULL,
    CASE change.text WHEN 'title' THEN items.title WHEN 'description' THEN items.description WHEN 'slug' THEN items.slug
      WHEN 'robots' THEN items.robots WHEN 'keywords' THEN items.meta_keywords WHEN 'canonical' THEN items.canonical ELSE '' END,
    items.path,
    CASE WHEN change.text IN ('alt', 'keywords', 'canonical') THEN (SELECT value FROM hand_extras
        WHERE item_id = change.item_id AND text = change.text AND image = coalesce(change.image, ''))
      ELSE hand_texts.value END,
    change.part, change.image, change.tag
  FROM run_changes AS change INDEXED BY run_changes_waiting
  LEFT JOIN items ON items.id = change.item_id
  LEFT JOIN hand_texts ON hand_texts.item_id = change.item_id AND hand_texts.text = change.text
  WHERE change.run_id = ? AND change.status = 'waiting'`;

const SKIPPED_WORDS: Record<Exclude<ChangedText, "address">, string> = {
  title: "title was",
  description: "description was",
  slug: "slug was",
  robots: "robots setting was",
  alt: "image description was",
  body: "link was",
  keywords: "meta keywords were",
  canonical: "canonical was",
};

/** What of a page a run makes; `null` for what stays. */
export interface PageOutcome {
  readonly item: number;
  readonly title: string | null;
  readonly description: string | null;
  readonly slug: string | null;
  readonly robots: string | null;
  readonly keywords: string | null;
  readonly canonical: string | null;
  readonly body: string | null;
  /** Where it goes; `null` where it stays. From `null`: it gets an address. */
  readonly move: { readonly from: string | null; readonly to: string | null } | null;
}

/** Ends a transaction of which nothing is to stay. */
class Undone extends Error {}

/** Applies the changes of one run, so many items to a transaction. */
export class Applier {
  private readonly takesBack: boolean;
  private readonly next;
  private readonly ofItem;
  private readonly lastOfChunk;
  private readonly putTexts;
  private readonly settleUpTo;
  private readonly settleItem;
  private readonly refuseItem;
  private readonly skip;
  private readonly redirects;
  private readonly putBody;
  private readonly canonical;
  private readonly baseUrl: string;

  constructor(
    private readonly db: Db,
    private readonly run: number,
  ) {
    this.takesBack = readRun(db, run)!.type === "take-back";
    this.lastOfChunk = db
      .prepare(
        `SELECT max(item_id) FROM (SELECT DISTINCT item_id FROM run_changes INDEXED BY run_changes_waiting
         WHERE run_id = ? AND status = 'waiting' ORDER BY item_id LIMIT ?)`,
      )
      .pluck();
    this.next = db.prepare(`${SELECT} AND change.item_id <= ? ORDER BY change.item_id, change.id`).raw();
    this.ofItem = db.prepare(`${SELECT} AND change.item_id = ? ORDER BY change.id`).raw();
    this.putTexts = db.prepare(
      `UPDATE items SET title = coalesce(@title, title), description = coalesce(@description, description), slug = coalesce(@slug, slug),
         robots = coalesce(@robots, robots), meta_keywords = coalesce(@keywords, meta_keywords), canonical = coalesce(@canonical, canonical),
         content_revision = CASE WHEN @body THEN @revision ELSE content_revision END, path = CASE WHEN @moves THEN @path ELSE path END, revision = @revision WHERE id = @item`,
    );
    const settle =
      "UPDATE run_changes INDEXED BY run_changes_waiting SET status = 'applied' WHERE run_id = ? AND status = 'waiting'";
    this.settleUpTo = db.prepare(`${settle} AND item_id <= ?`);
    this.settleItem = db.prepare(`${settle} AND item_id = ?`);
    this.refuseItem = db.prepare(
      "UPDATE run_changes INDEXED BY run_changes_waiting SET status = 'skipped', trouble = ?, reason = ? WHERE run_id = ? AND item_id = ? AND status = 'waiting'",
    );
    this.skip = db.prepare("UPDATE run_changes SET status = 'skipped', reason = ? WHERE id = ?");
    this.redirects = redirectWriter(db, run);
    this.canonical = db.prepare("SELECT canonical FROM items WHERE id = ?").pluck();
    this.baseUrl = readSite(db)?.baseUrl ?? "";
    this.putBody = db.prepare("UPDATE bodies SET body = ? WHERE item_id = ?");
  }

  /** Applies the next items' changes; says how many changes it looked at. */
  applyNext(): number {
    return this.db
      .transaction(() => {
        const last = this.lastOfChunk.get(this.run, CHUNK) as number | null;
        if (last === null) return 0;
        const looked = this.apply(this.next.all(this.run, last) as Row[]);
        this.settleUpTo.run(this.run, last);
        return looked;
      })
      .immediate();
  }

  /** Applies these items' changes in one transaction. */
  applyItems(items: readonly number[]): number {
    return this.db
      .transaction(() => {
        const looked = this.apply(items.flatMap((item) => this.ofItem.all(this.run, item) as Row[]));
        for (const item of items) this.settleItem.run(this.run, item);
        return looked;
      })
      .immediate();
  }

  /** Makes changes that can be made and skips the others; what still waits of them afterwards was made. */
  private apply(rows: readonly Row[]): number {
    if (rows.length === 0) return 0;
    const revision = nextRevision(this.db);
    const counts = { applied: 0, skipped: 0, redirects: 0 };
    const moved: Moved[] = [];
    for (const changes of byItem(rows)) {
      const { made, outcome } = this.possible(changes);
      counts.skipped += changes.length - made;
      counts.applied += made;
      if (outcome) moved.push(...this.put(outcome, revision));
    }
    for (const move of moved) counts.redirects += this.redirects(move);
    countRun(this.db, this.run, counts);
    return rows.length;
  }

  /** Pages of which something waits, behind a page; only those that move, or only the others. */
  waiting(after: number, moving: boolean, most: number): number[] {
    return this.db
      .prepare(
        `SELECT item_id FROM run_changes INDEXED BY run_changes_waiting WHERE run_id = ? AND status = 'waiting' AND item_id > ?
         GROUP BY item_id HAVING max(path_before IS NOT path_after) = ? ORDER BY item_id LIMIT ?`,
      )
      .pluck()
      .all(this.run, after, moving ? 1 : 0, most) as number[];
  }

  /** Skips what waits of an item, since the site does not take it; and links that were to follow it to where it does not go. */
  refuse(item: number, trouble: ChangeTrouble, reason: string): void {
    this.db
      .transaction(() => {
        const { changes } = this.refuseItem.run(trouble, reason, this.run, item);
        countRun(this.db, this.run, { applied: 0, skipped: changes, redirects: 0 });
        const follows = skipFollowing(this.db, this.run, new Map([[item, reason]]));
        countRun(this.db, this.run, { applied: 0, skipped: follows, redirects: 0 });
      })
      .immediate();
  }

  /** Redirects that a move will owe, before it is made: nothing is written. */
  redirectsOf(move: Moved): { readonly from: string; readonly to: string; readonly status: number }[] {
    const owed: { from: string; to: string; status: number }[] = [];
    const undo = this.db.transaction(() => {
      const last = this.db.prepare("SELECT coalesce(max(id), 0) FROM redirects").pluck().get() as number;
      this.db.prepare("UPDATE items SET path = ? WHERE id = ?").run(move.to, move.item);
      this.redirects(move);
      const written = this.db.prepare("SELECT from_path, to_path, status FROM redirects WHERE id > ?").all(last);
      for (const { from_path, to_path, status } of written as { from_path: string; to_path: string; status: number }[])
        owed.push({ from: from_path, to: to_path, status });
      throw new Undone();
    });
    try {
      undo.immediate();
    } catch (error) {
      if (!(error instanceof Undone)) throw error;
    }
    return owed;
  }

  /** What pages become by what waits of them, at once; what cannot be made is skipped. Nothing else is written. */
  ready(items: readonly number[]): PageOutcome[] {
    return this.db
      .transaction(() => {
        const ready: PageOutcome[] = [];
        let skipped = 0;
        for (const changes of byItem(items.flatMap((item) => this.ofItem.all(this.run, item) as Row[]))) {
          const { made, outcome } = this.possible(changes);
          skipped += changes.length - made;
          if (outcome) ready.push(outcome);
        }
        countRun(this.db, this.run, { applied: 0, skipped, redirects: 0 });
        return ready;
      })
      .immediate();
  }

  /** Skips those of an item's changes that cannot be made; what the others make of it, `null` where none is left. */
  private possible(changes: readonly WaitingChange[]): { readonly made: number; readonly outcome: PageOutcome | null } {
    const { item } = changes[0]!;
    const body = changes.some(BodyTags.isOf) ? new BodyTags(readBody(this.db, item), this.takesBack) : null;
    const made = changes.filter((change) => {
      const reason = this.reasonToSkip(change) ?? (change.tag && body ? body.reasonToSkip(change) : null);
      if (reason !== null) this.skip.run(reason, change.id);
      return reason === null;
    });
    if (made.length === 0) return { made: 0, outcome: null };
    for (const change of made) if (change.tag) body?.put(change);
    const of = (text: ChangedText) => made.find((change) => change.text === text)?.after ?? null;
    const move = made.find(({ from, to }) => from !== to);
    const outcome: PageOutcome = {
      item,
      title: of("title"),
      description: of("description"),
      slug: of("slug"),
      robots: of("robots"),
      keywords: of("keywords"),
      canonical: of("canonical") ?? (isMove(move) ? this.canonicalAfter(item, move) : null),
      body: body?.isChanged ? body.body : null,
      move: move ? { from: move.from, to: move.to } : null,
    };
    return { made: made.length, outcome };
  }

  /** Writes down what becomes of a page; gives its move. */
  private put({ item, body, move, ...texts }: PageOutcome, revision: number): Moved[] {
    if (body !== null) this.putBody.run(body, item);
    const isOther = body !== null ? 1 : 0;
    this.putTexts.run({ item, revision, ...texts, body: isOther, moves: move ? 1 : 0, path: move?.to ?? null });
    return move && isMove(move) ? [{ item, from: move.from, to: move.to }] : [];
  }

  /** The canonical of a page that moves, where it was the page’s own address written out; `null` where it stays. */
  private canonicalAfter(item: number, move: { readonly from: string; readonly to: string }): string | null {
    const now = this.canonical.get(item) as string | undefined;
    return now ? movedCanonical(now, move, this.baseUrl) : null;
  }

  private reasonToSkip({ text, before, after, from, to, isGone, reads, path, hand }: WaitingChange): string | null {
    if (isGone) return "The page is no longer there";
    if (text !== "address") {
      const what = SKIPPED_WORDS[text];
      if (!BodyTags.isOf({ text }) && reads !== before)
        return `The ${what} changed meanwhile; it now reads “${reads.slice(0, 80)}”`;
      // What the run was frozen with may be the text by hand itself; on the way back it is what the run had put there.
      const isOfRun = hand === after || (this.takesBack && hand === before);
      if (hand !== null && !isOfRun) return `The ${what} written by hand meanwhile`;
    }
    if ((from ?? to) !== null && path !== from) return `The page moved meanwhile; it is now at ${path}`;
    return null;
  }
}

function isMove<T extends { readonly from: string | null; readonly to: string | null }>(
  change: T | undefined,
): change is T & { readonly from: string; readonly to: string } {
  return change !== undefined && change.from !== null && change.to !== null;
}

/** The changes of each item, which stand together. */
function* byItem(rows: readonly Row[]): Generator<WaitingChange[]> {
  for (let from = 0, to = 0; from < rows.length; from = to) {
    for (to = from; to < rows.length && rows[to]![1] === rows[from]![1];) to++;
    yield rows.slice(from, to).map(waitingChange);
  }
}

function waitingChange([
  id,
  item,
  text,
  before,
  after,
  from,
  to,
  gone,
  reads,
  path,
  hand,
  part,
  src,
  tag,
]: Row): WaitingChange {
  const ofBody = part === null ? null : { part, src: src ?? "", original: tag };
  return { id, item, text, before, after, from, to, isGone: gone === 1, reads, path, hand, tag: ofBody };
}
