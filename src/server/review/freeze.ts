import { noTexts } from "../../core/plan/review-filter";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Designs } from "../../core/design/designs";
import { type Kind, kindWord, type WithKinds } from "../../core/design/kinds";
import { linkTagsOf } from "../../core/links/body-links";
import { imagesOf } from "../../core/text/images";
import { readBody } from "../../store/items";
import { type Db } from "../../store/open";
import { readSite } from "../../store/site";
import { saveVersion } from "../../store/versions";
import {
  beginRun,
  type ChangedText,
  changeWriter,
  dropRun,
  finishRun,
  type NewChange,
  type NewRun,
} from "../../store/runs";
import { after, before, type FoundChanges, labelOf, pageRow, partOf, type Unit } from "./found-changes";
import { type Inclusion } from "./inclusion";
import { type Going } from "./review";

/** So many changes are written in one transaction: others get their turn between them. */
const CHUNK = 5000;

/**
 * Writes what goes out down as a run, with what stood before. The site may change meanwhile: at the end `confirm` makes sure
 * that it did not, in the transaction that makes the run one.
 *
 * @param confirm runs what it is given in one transaction; throws where the site is another one by now.
 * @throws what `confirm` throws; nothing of the run is left then.
 */
export function freeze(
  db: Db,
  { found, inclusion, followed }: Going,
  designs: Designs,
  of: Pick<NewRun, "name" | "click" | "now">,
  confirm: (write: () => void) => void,
): number {
  const run = beginRun(db, { ...of, note: noteOf(readSite(db), found, inclusion), design: JSON.stringify(designs) });
  try {
    const write = changeWriter(db, run);
    const counts: Record<ChangedText, number> = { ...noTexts(), address: 0 };
    const items = new Set<number>();
    let batch: NewChange[] = [];
    for (const change of allChanges(db, { found, inclusion, followed })) {
      counts[change.text]++;
      items.add(change.item_id);
      if (batch.push(change) < CHUNK) continue;
      write(batch);
      batch = [];
    }
    write(batch);
    confirm(() => {
      finishRun(db, run, counts, items.size);
      saveVersions(db, run, { found, inclusion }, designs, of);
    });
    return run;
  } catch (error) {
    dropRun(db, run);
    throw error;
  }
}

/** Saves the lines of each kind that the run changes as a version. */
function saveVersions(
  db: Db,
  run: number,
  { found, inclusion }: { found: FoundChanges; inclusion: Inclusion },
  designs: Designs,
  { name, now }: Pick<NewRun, "name" | "now">,
): void {
  const versionName = name === "" ? `Run ${run}` : `Run ${run}: ${name}`;
  for (const kind of changesOfKinds(found, inclusion).keys())
    saveVersion(db, { kind, name: versionName, design: designs[kind] ?? EMPTY_DESIGN, run }, now);
}

/** How many changes of each kind go out; a kind without any is not there. */
function changesOfKinds({ changes, units }: FoundChanges, { isIncluded }: Inclusion): Map<Kind, number> {
  const perKind = new Map<Kind, number>();
  for (let place = 0; place < changes.length; place++) {
    const { kind } = units[changes.unitOf(place)]!;
    if (isIncluded(place)) perKind.set(kind, (perKind.get(kind) ?? 0) + 1);
  }
  return perKind;
}

/** @example "12,480 for products, 42 for posts" */
function noteOf(site: WithKinds, found: FoundChanges, inclusion: Inclusion): string {
  return [...changesOfKinds(found, inclusion)]
    .map(([kind, count]) => `${count.toLocaleString("en")} for ${kindWord(site, kind, 2)}`)
    .join(", ");
}

/** The tag of an image, or of a link, as it stands in a body; `null` where there is none. */
type TagOf = (item: number, text: "alt" | "body", number: number) => string | null;

/** Reads each body once, as long as what is asked of it comes one after another. */
function tagReader(db: Db): TagOf {
  let held: { readonly item: number; readonly text: string; readonly tags: readonly string[] } | null = null;
  return (item, text, number) => {
    if (held?.item !== item || held.text !== text) held = { item, text, tags: tagsOf(readBody(db, item), text) };
    return held.tags[number - 1] ?? null;
  };
}

function tagsOf(body: string, text: "alt" | "body"): string[] {
  if (text === "alt") return imagesOf(body).map(({ tag }) => tag);
  return linkTagsOf(body).map(({ from, to }) => body.slice(from, to));
}

/** Of an image's or a link's change which of the body's it is, and its tag as it stands. */
function partOfBody(unit: Unit, row: number, tagOf: TagOf): Pick<NewChange, "part" | "image" | "tag"> {
  const part = partOf(unit, row);
  if (part === 0 || (unit.text !== "alt" && unit.text !== "body")) return {};
  const item = unit.data.ids[pageRow(unit, row)]!;
  return { part, image: labelOf(unit, row), tag: tagOf(item, unit.text, part) };
}

function* allChanges(db: Db, { found, inclusion, followed }: Going): IterableIterator<NewChange> {
  const tagOf = tagReader(db);
  yield* frozenChanges({ found, inclusion }, tagOf);
  for (const { item, number, text, before, after, follows } of followed)
    yield {
      item_id: item,
      text: number === 0 ? "canonical" : "body",
      before,
      after,
      path_before: null,
      path_after: null,
      revision: 0,
      ...(number === 0 ? {} : { part: number, image: text, tag: tagOf(item, "body", number) }),
      follows,
    };
}

/** The rows of a run: what goes out, each slug with where its page goes, then the pages that move along. */
function* frozenChanges(
  { found: { changes, units, pages }, inclusion: { isIncluded, plan } }: Omit<Going, "followed">,
  tagOf: TagOf,
): IterableIterator<NewChange> {
  const moves = new Map(plan.moves.map((move) => [move.page, move]));
  for (let place = 0; place < changes.length; place++) {
    if (!isIncluded(place)) continue;
    const unit = units[changes.unitOf(place)]!;
    const row = changes.rowOf(place);
    const page = unit.firstPage + pageRow(unit, row);
    const isSlug = unit.text === "slug";
    const path = pages.paths[page]! || null;
    const texts = { before: before(unit, row), after: after(unit, row) };
    // A page whose slug stays moves for its kind’s address line alone.
    const movesOnly = isSlug && (texts.after === "" || texts.before === texts.after);
    yield {
      item_id: unit.data.ids[pageRow(unit, row)]!,
      text: movesOnly ? "address" : unit.text,
      ...(movesOnly ? { before: "", after: "" } : texts),
      path_before: isSlug ? path : null,
      path_after: isSlug ? (moves.get(page)?.to ?? path) : null,
      revision: unit.data.revision,
      ...partOfBody(unit, row, tagOf),
    };
    if (isSlug) moves.delete(page);
  }
  for (const { page, from, to } of moves.values())
    yield {
      item_id: pages.ids[page]!,
      text: "address",
      before: "",
      after: "",
      path_before: from,
      path_after: to,
      revision: 0,
    };
}
