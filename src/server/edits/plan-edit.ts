import { slugRulesOf } from "../../core/slugs/site-rules";
import { type KindView } from "../items/site-views";
import { Refusal } from "../../core/refusal";
import { type Site } from "../../core/design/design";
import { isPageExtra, type PageExtra, type TextName, textsOf } from "../../core/design/kinds";
import { type EditedField, tidyByHand } from "../../core/edits/hand-text";
import { type Replacement, replacer } from "../../core/edits/replace";
import { type EditChange } from "../../store/edits";

/** What is done to chosen pages. */
export type EditAction =
  | { readonly type: "set"; readonly field: Exclude<EditedField, "alt">; readonly value: string }
  /** What is said of one image of each page: of those that have it, by its address as it stands in the body. */
  | { readonly type: "describe"; readonly field: "alt"; readonly image: string; readonly value: string }
  | { readonly type: "undescribe"; readonly field: "alt"; readonly image: string }
  /** Back to what the lines make of it. */
  | { readonly type: "let-go"; readonly field: TextName | "robots" | PageExtra }
  /** What the draft makes of it becomes a text by hand: it stays whatever the lines do. */
  | { readonly type: "hold"; readonly field: TextName }
  | ({ readonly type: "replace"; readonly field: TextName | "keyword" } & Replacement)
  /** One value for each page, in the order of the pages. */
  | { readonly type: "paste"; readonly field: Exclude<EditedField, "alt">; readonly values: readonly string[] };

/** What an action would do, page by page. */
export interface EditPlan {
  readonly label: string;
  readonly changes: readonly EditChange[];
  /** Pages that have already what they would get. */
  readonly unchanged: number;
  /** Pages that are left as they are, and why. */
  readonly refused: readonly { readonly reason: string; readonly count: number; readonly example: string }[];
  /** The first changes as they read. */
  readonly samples: readonly {
    readonly id: number;
    readonly name: string;
    readonly before: string;
    readonly after: string;
  }[];
}

/** An action that cannot be done as it is asked for, in words. */
export class EditError extends Refusal {
  constructor(message: string, code: "invalid" | "stale" | "not-found" = "invalid") {
    super(code, message);
  }
}

const SAMPLES = 40;
const FIELD_WORDS: Record<EditedField, string> = {
  title: "title",
  description: "description",
  slug: "slug",
  keyword: "focus keyword",
  robots: "robots setting",
  alt: "image description",
  keywords: "list of meta keywords",
  canonical: "canonical",
};
const FIELDS_WORDS: Partial<Record<EditedField, string>> = { keywords: "lists of meta keywords" };

const NO_SLUG = { refused: "is none on the home page, which stays at the site’s own address" };

/** Works an action out for pages; nothing is done yet. @throws {EditError} */
export function planEdit(site: Site, pages: readonly { view: KindView; row: number }[], action: EditAction): EditPlan {
  if (pages.length === 0) throw new EditError("No page is selected");
  if (action.type === "paste" && action.values.length !== pages.length) {
    throw new EditError(
      `${counted(pages.length, "page is", "pages are")} selected and ${counted(action.values.length, "line was", "lines were")} pasted: select as many pages as there are lines, or one page to start from`,
    );
  }
  const changes: EditChange[] = [];
  const samples: EditPlan["samples"][number][] = [];
  const refused = new Map<string, { reason: string; count: number; example: string }>();
  let unchanged = 0;
  const make = maker(action, site);
  pages.forEach(({ view, row }, place) => {
    const { data } = view;
    const name = data.items.value("name", row);
    const { field } = action;
    const { reads, before } = present(view, row, action);
    const after = action.field === "slug" && !textsOf(data.kind).includes("slug") ? NO_SLUG : make(reads, place);
    if (after !== null && typeof after === "object") {
      const known = refused.get(after.refused);
      if (known) known.count++;
      else
        refused.set(after.refused, { reason: `The ${FIELD_WORDS[field]} ${after.refused}`, count: 1, example: name });
      return;
    }
    if (after === before || after === undefined) {
      unchanged++;
      return;
    }
    const image = "image" in action ? action.image : "";
    changes.push({ item: data.ids[row]!, field, image, before, after });
    if (samples.length < SAMPLES) samples.push({ id: data.ids[row]!, name, before: reads, after: after ?? "" });
  });
  return { label: labelOf(action, changes.length), changes, unchanged, refused: [...refused.values()], samples };
}

/** What a page's value reads now, and what of it is by hand; a keyword is what it is. */
function present(
  { data, draft, robots }: KindView,
  row: number,
  action: EditAction,
): { readonly reads: string; readonly before: string | null } {
  const { field } = action;
  if (field === "keyword") {
    const reads = data.items.value("keyword", row);
    return { reads, before: reads };
  }
  if (field === "alt") {
    const before = data.altHands.get(row)?.get(action.image) ?? null;
    return { reads: before ?? "", before };
  }
  const before = data.hands[field].get(row) ?? null;
  if (isPageExtra(field)) return { reads: before ?? data.pageExtra(field)[row]!, before };
  return { reads: field === "robots" ? robots(row).value : draft[field].textOf(row), before };
}

/** What a page's value becomes: `null` for no longer by hand, `undefined` where it stays, an object where it is refused. */
function maker(
  action: EditAction,
  site: Site,
): (reads: string, place: number) => string | null | undefined | { refused: string } {
  const tidy = (raw: string) => {
    const tidied = tidyByHand(action.field, raw, slugRulesOf(site));
    return "value" in tidied ? tidied.value : tidied;
  };
  switch (action.type) {
    case "set":
    case "describe": {
      const value = tidy(action.value);
      return () => value;
    }
    case "let-go":
    case "undescribe":
      return () => null;
    case "hold":
      return (reads) => (reads === "" ? { refused: "is empty under the drafts; there is nothing to keep" } : reads);
    case "replace": {
      const replace = replacer(action);
      return (reads) => {
        const made = replace(reads);
        return made === reads ? undefined : tidy(made);
      };
    }
    case "paste":
      return (_, place) =>
        action.values[place]!.trim() === "" && action.field !== "keyword" ? undefined : tidy(action.values[place]!);
  }
}

function labelOf(action: EditAction, count: number): string {
  const one = FIELD_WORDS[action.field];
  const what = count === 1 ? one : (FIELDS_WORDS[action.field] ?? `${one}s`);
  const of = `${count.toLocaleString("en")} ${what}`;
  switch (action.type) {
    case "set":
      return action.value === "" ? `${of} cleared` : `${of} set`;
    case "describe":
      return `${of} written`;
    case "let-go":
    case "undescribe":
      return `${of} set back to the line`;
    case "hold":
      return `${of} kept as written by hand`;
    case "replace":
      return `“${action.find}” replaced in ${of}`;
    case "paste":
      return `${of} pasted`;
  }
}

/** @example counted(2, "page is", "pages are") // "2 pages are" */
function counted(count: number, one: string, many: string): string {
  return `${count.toLocaleString("en")} ${count === 1 ? one : many}`;
}
