import { noTexts } from "../core/plan/review-filter";
import { type Db } from "../store/open";
import { beginRun, type ChangedText, changeWriter, finishRun, type NewChange } from "../store/runs";

/** Writes a run with these changes down. */
export function storedRun(db: Db, changes: Iterable<NewChange>): number {
  const all = [...changes];
  const id = beginRun(db, { name: "", note: "some", design: "{}", click: null, now: "2026-11-25T10:00:00Z" });
  changeWriter(db, id)(all);
  const counts: Record<ChangedText, number> = { ...noTexts(), address: 0 };
  for (const { text } of all) counts[text]++;
  finishRun(db, id, counts, new Set(all.map(({ item_id }) => item_id)).size);
  return id;
}
