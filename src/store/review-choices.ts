import { type ChangeGroup } from "../core/plan/groups";
import { type TextName } from "../core/design/kinds";
import { type Db } from "./open";

/** What a person left out of a review or took in, beside what is left out at first. */
export interface ReviewChoices {
  readonly groups: ReadonlyMap<ChangeGroup, boolean>;
  /** By {@link changeScope}. */
  readonly changes: ReadonlyMap<string, boolean>;
}

/** The name of one change among the choices. */
export function changeScope(item: number, text: TextName | "robots"): string {
  return `${item}:${text}`;
}

export function readChoices(db: Db): ReviewChoices {
  const groups = new Map<ChangeGroup, boolean>();
  const changes = new Map<string, boolean>();
  for (const { scope, included } of db.prepare("SELECT scope, included FROM review_choices").all() as {
    scope: string;
    included: number;
  }[]) {
    if (scope.startsWith("group:")) groups.set(scope.slice(6) as ChangeGroup, included === 1);
    else changes.set(scope.slice(7), included === 1);
  }
  return { groups, changes };
}

/**
 * Takes a group in or leaves it out, whatever was said of its single changes before.
 *
 * @param isMember whether a change is of the group, by its {@link changeScope}.
 */
export function chooseGroup(db: Db, group: ChangeGroup, included: boolean, isMember: (scope: string) => boolean): void {
  db.transaction(() => {
    const drop = db.prepare("DELETE FROM review_choices WHERE scope = ?");
    for (const scope of readChoices(db).changes.keys()) if (isMember(scope)) drop.run(`change:${scope}`);
    put(db, `group:${group}`, included);
  }).immediate();
}

export function chooseChange(db: Db, scope: string, included: boolean): void {
  put(db, `change:${scope}`, included);
}

export function clearChoices(db: Db): void {
  db.prepare("DELETE FROM review_choices").run();
}

function put(db: Db, scope: string, included: boolean): void {
  db.prepare(
    "INSERT INTO review_choices (scope, included) VALUES (?, ?) ON CONFLICT (scope) DO UPDATE SET included = excluded.included",
  ).run(scope, included ? 1 : 0);
}
