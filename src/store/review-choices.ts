import { CHANGE_GROUPS, type ChangeGroup } from "../core/plan/groups";
import { type Kind } from "../core/design/kinds";
import { type ReviewedText } from "../core/plan/review-filter";
import { type Db } from "./open";

/** What of a page a change is of. */
export interface ChangeScope {
  readonly item: number;
  readonly text: ReviewedText;
  /** Of an image or a link: which of the body's it is, from 1; 0 for what is of neither. */
  readonly part?: number | undefined;
}

/** A person's word on one change: it holds as long as the change is the same. */
export interface ChangeChoice {
  /** What the change was told by; `null` holds whatever it is. */
  readonly mark: string | null;
  readonly included: boolean;
}

/** What a person left out of a review or took in, beside what is left out at first. */
export interface ReviewChoices {
  readonly groups: ReadonlyMap<ChangeGroup, boolean>;
  /** By {@link stretchKey}; it goes before what was said of the whole group. */
  readonly stretches: ReadonlyMap<string, boolean>;
  /** Whether links that lead to moving pages are rewritten by the run that moves them. */
  readonly followsLinks: boolean;
  /** By item, then by {@link choiceKey}. */
  readonly changes: ReadonlyMap<number, ReadonlyMap<string, ChangeChoice>>;
}

/** The changes of one text of one kind within a group. */
export interface ChangeStretch {
  readonly group: ChangeGroup;
  readonly kind: Kind;
  readonly text: ChangeScope["text"];
}

export function stretchKey({ group, kind, text }: ChangeStretch): string {
  return `${group} ${kind} ${text}`;
}

/** What of an item a choice is of. @example choiceKey("alt", 3) // "alt 3" */
export function choiceKey(text: ChangeScope["text"], part: number): string {
  return `${text} ${part}`;
}

/** Stands among what was said of groups for the links that follow moves. */
const FOLLOW_LINKS = "follow-links";

function isGroup(name: string): name is ChangeGroup {
  return (CHANGE_GROUPS as readonly string[]).includes(name);
}

/** Says whether links that lead to moving pages are rewritten with them. */
export function chooseFollowing(db: Db, follows: boolean): void {
  db.transaction(() => {
    db.prepare("DELETE FROM group_choices WHERE name = ?").run(FOLLOW_LINKS);
    if (follows) db.prepare("INSERT INTO group_choices (name, included) VALUES (?, 1)").run(FOLLOW_LINKS);
  }).immediate();
}

export function readChoices(db: Db): ReviewChoices {
  const said = db.prepare('SELECT name AS "group", kind, text, included FROM group_choices').all() as (ChangeStretch & {
    included: number;
  })[];
  const whole = said.filter(({ group, kind }) => kind === "" && isGroup(group));
  const stretches = said.filter(({ kind }) => kind !== "");
  const rows = db.prepare("SELECT item_id, text, part, mark, included FROM change_choices").raw().all() as [
    number,
    ChangeScope["text"],
    number,
    string | null,
    number,
  ][];
  const changes = new Map<number, Map<string, ChangeChoice>>();
  for (const [item, text, part, mark, included] of rows) {
    let own = changes.get(item);
    if (!own) changes.set(item, (own = new Map()));
    own.set(choiceKey(text, part), { mark, included: included === 1 });
  }
  return {
    groups: new Map(whole.map(({ group, included }) => [group, included === 1])),
    followsLinks: said.some(({ group, included }) => (group as string) === FOLLOW_LINKS && included === 1),
    stretches: new Map(stretches.map((own) => [stretchKey(own), own.included === 1])),
    changes,
  };
}

/**
 * Takes a group in or leaves it out, whatever was said of its single changes before.
 *
 * @param isMember whether a change is of the group.
 */
export function chooseGroup(
  db: Db,
  group: ChangeGroup,
  included: boolean,
  isMember: (scope: ChangeScope) => boolean,
): void {
  db.transaction(() => {
    dropChoices(db, isMember);
    db.prepare("DELETE FROM group_choices WHERE name = ?").run(group);
    db.prepare("INSERT INTO group_choices (name, included) VALUES (?, ?)").run(group, included ? 1 : 0);
  }).immediate();
}

/**
 * Takes stretches of groups in or leaves them out, whatever was said of their single changes before.
 *
 * @param isMember whether a change is of one of them.
 */
export function chooseStretches(
  db: Db,
  stretches: readonly ChangeStretch[],
  included: boolean,
  isMember: (scope: ChangeScope) => boolean,
): void {
  const put = db.prepare(
    `INSERT INTO group_choices (name, kind, text, included) VALUES (?, ?, ?, ?)
     ON CONFLICT (name, kind, text) DO UPDATE SET included = excluded.included`,
  );
  db.transaction(() => {
    dropChoices(db, isMember);
    for (const { group, kind, text } of stretches) put.run(group, kind, text, included ? 1 : 0);
  }).immediate();
}

/** Leaves every change out, whatever was said before. */
export function leaveAllOut(db: Db): void {
  db.transaction(() => {
    clearChoices(db);
    const put = db.prepare("INSERT INTO group_choices (name, included) VALUES (?, 0)");
    for (const group of CHANGE_GROUPS) put.run(group);
  }).immediate();
}

function dropChoices(db: Db, isMember: (scope: ChangeScope) => boolean): void {
  const drop = db.prepare("DELETE FROM change_choices WHERE item_id = ? AND text = ? AND part = ?");
  const chosen = db.prepare("SELECT item_id AS item, text, part FROM change_choices").all() as ChangeScope[];
  for (const scope of chosen) if (isMember(scope)) drop.run(scope.item, scope.text, scope.part ?? 0);
}

/** Takes one change in or leaves it out, as long as it is the same. */
export function chooseChange(db: Db, { item, text, part = 0 }: ChangeScope, mark: string, included: boolean): void {
  db.prepare(
    `INSERT INTO change_choices (item_id, text, part, mark, included) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT (item_id, text, part) DO UPDATE SET mark = excluded.mark, included = excluded.included`,
  ).run(item, text, part, mark, included ? 1 : 0);
}

/** Whether anything was said of groups or changes. */
export function isAnyChosen(db: Db): boolean {
  const any = db.prepare("SELECT EXISTS (SELECT 1 FROM group_choices) OR EXISTS (SELECT 1 FROM change_choices)");
  return any.pluck().get() === 1;
}

/** Forgets what was said of groups and changes. */
export function clearChoices(db: Db): void {
  db.transaction(() => {
    db.prepare("DELETE FROM group_choices").run();
    db.prepare("DELETE FROM change_choices").run();
  }).immediate();
}

/** A word on many changes that can be taken back. */
export const CHOICE_ACTS = ["group", "only", "include", "exclude", "reset"] as const;
export type ChoiceAct = (typeof CHOICE_ACTS)[number];

/** Keeps what was said so far, before a word on many changes. */
export function keepChoices(db: Db, act: ChoiceAct): void {
  db.transaction(() => {
    dropKept(db);
    db.prepare("INSERT INTO choices_before VALUES (?)").run(act);
    db.exec(`INSERT INTO group_choices_before SELECT name, kind, text, included FROM group_choices;
      INSERT INTO change_choices_before SELECT item_id, text, part, mark, included FROM change_choices`);
  }).immediate();
}

/** Which word on many changes can be taken back; `null` for none. */
export function keptAct(db: Db): ChoiceAct | null {
  return (db.prepare("SELECT act FROM choices_before").pluck().get() as ChoiceAct | undefined) ?? null;
}

/** Goes back to what was said before the last word on many changes; what was said since goes with it. Does nothing where nothing is kept. */
export function restoreChoices(db: Db): void {
  db.transaction(() => {
    if (keptAct(db) === null) return;
    clearChoices(db);
    db.exec(`INSERT INTO group_choices (name, kind, text, included) SELECT * FROM group_choices_before;
      INSERT INTO change_choices (item_id, text, part, mark, included) SELECT * FROM change_choices_before
      WHERE EXISTS (SELECT 1 FROM items WHERE id = item_id)`);
    dropKept(db);
  }).immediate();
}

function dropKept(db: Db): void {
  db.exec("DELETE FROM choices_before; DELETE FROM group_choices_before; DELETE FROM change_choices_before");
}
