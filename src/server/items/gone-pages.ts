import { Refusal } from "../../core/refusal";
import { countGone, deleteGone, goneIds, goneReturner, listGone, placeTaken, type GonePage } from "../../store/gone";
import { type Db } from "../../store/open";
import { nextRevision } from "../../store/site";

/** Which of the pages that are gone: some of them, or all that a search finds; an empty one finds all. */
export type GoneChoice = readonly number[] | { readonly search: string };

/** So many are listed at once. */
const PAGE = 200;
/** So many are done at once, before others get their turn. */
const STEP = 500;

export interface GoneList {
  readonly pages: readonly GonePage[];
  /** How many are gone. */
  readonly total: number;
  /** How many of them the search finds. */
  readonly found: number;
  /** Whether there are no others behind these. */
  readonly isWhole: boolean;
}

/** The pages that are gone and that a search finds, those behind an id. */
export function goneList(db: Db, asked: { after: number; search: string }): GoneList {
  const found = goneIds(db, asked.search);
  const behind = found.filter((id) => id > asked.after);
  const pages = listGone(db, behind.slice(0, PAGE));
  return { pages, total: countGone(db), found: found.length, isWhole: behind.length <= PAGE };
}

/** The ids of the pages that are meant. */
export function chosenGone(db: Db, choice: GoneChoice): readonly number[] {
  return "search" in choice ? goneIds(db, choice.search) : choice;
}

/** Brings pages that are gone back as they were. @returns how many are back, and how many stay gone since another page has their address or id by now. */
export async function bringPagesBack(db: Db, choice: GoneChoice): Promise<{ back: number; stay: number }> {
  const counts = { back: 0, stay: 0 };
  const bringBack = goneReturner(db);
  const takenOf = placeTaken(db);
  const step = db.transaction((ids: readonly number[]) => {
    const revision = nextRevision(db);
    for (const id of ids) {
      if (takenOf(id) !== null) counts.stay++;
      else if (bringBack(id, revision)) counts.back++;
    }
  });
  for await (const ids of inSteps(chosenGone(db, choice))) step.immediate(ids);
  return counts;
}

/**
 * Deletes pages that are gone for good.
 *
 * @param count how many the person was told that there are. @throws {Refusal} where there are others by now.
 */
export async function deletePages(db: Db, choice: GoneChoice, count: number): Promise<{ deleted: number }> {
  const all = chosenGone(db, choice);
  if (all.length !== count)
    throw new Refusal(
      "conflict",
      `There are ${all.length} pages by now, not ${count}; nothing was deleted. Check them again.`,
    );
  const step = db.transaction((ids: readonly number[]) => deleteGone(db, ids));
  let deleted = 0;
  for await (const ids of inSteps(all)) deleted += step.immediate(ids);
  return { deleted };
}

async function* inSteps(ids: readonly number[]): AsyncGenerator<readonly number[]> {
  for (let from = 0; from < ids.length; from += STEP) {
    yield ids.slice(from, from + STEP);
    await new Promise((resolve) => setImmediate(resolve));
  }
}
