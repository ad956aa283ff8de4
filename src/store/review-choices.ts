import { type ChangeGroup } from "../core/plan/groups";
import { type TextName } from "../core/design/kinds";
import { type Db } from "./open";

/** What of a page a change is of. */
export interface ChangeScope {
  readonly item: number;
  readonly text: TextName | "robots";
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
  /** By item, then by text. */
  readonly changes: ReadonlyMap<number, ReadonlyMap<ChangeScope["text"], ChangeChoice>>;
}

export function readChoices(db: Db): ReviewChoices {
  const groups = db.prepare("SELECT name, included FROM group_choices").raw().all() as [ChangeGroup, number][];
  const rows = db.prepare("SELECT item_id, text, mark, included FROM change_choices").raw().all() as [
    number,
    ChangeScope["text"],
    string | null,
    number,
  ][];
  const changes = new Map<number, Map<ChangeScope["text"], ChangeChoice>>();
  for (const [item, text, mark, included] of rows) {
    let own = changes.get(item);
    if (!own) changes.set(item, (own = new Map()));
    own.set(text, { mark, included: included === 1 });
  }
  return { groups: new Map(groups.map(([name, included]) => [name, included === 1])), changes };
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
    const drop = db.prepare("DELETE FROM change_choices WHERE item_id = ? AND text = ?");
    for (const [item, texts] of readChoices(db).changes)
      for (const text of texts.keys()) if (isMember({ item, text })) drop.run(item, text);
    db.prepare(
      "INSERT INTO group_choices (name, included) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET included = excluded.included",
    ).run(group, included ? 1 : 0);
  }).immediate();
}

/** Takes one change in or leaves it out, as long as it is the same. */
export function chooseChange(db: Db, { item, text }: ChangeScope, mark: string, included: boolean): void {
  db.prepare(
    `INSERT INTO change_choices (item_id, text, mark, included) VALUES (?, ?, ?, ?)
     ON CONFLICT (item_id, text) DO UPDATE SET mark = excluded.mark, included = excluded.included`,
  ).run(item, text, mark, included ? 1 : 0);
}

/** Forgets what was said of groups and changes. */
export function clearChoices(db: Db): void {
  db.transaction(() => {
    db.prepare("DELETE FROM group_choices").run();
    db.prepare("DELETE FROM change_choices").run();
  }).immediate();
}
