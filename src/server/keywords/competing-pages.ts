import { type TextName } from "../../core/design/kinds";
import { FORMS, placeKeyword } from "../../core/keywords/place";
import { type Place, PLACES } from "../../core/keywords/places";
import { keywordKey, suggestFromName } from "../../core/keywords/suggest";
import { readBody } from "../../store/items";
import { type KindView, type SiteViews } from "../items/site-views";
import { type Workspace } from "../workspace/workspace";
import { type KeywordWithPages } from "./keyword-coverage";
import { type KeywordPages, type PageRef } from "./keyword-pages";

/** A page that competes for a keyword, with the places it has it in under the drafts, and what it could have instead. */
export interface Competitor extends PageRef {
  readonly places: readonly Place[];
  readonly title: string;
  readonly instead: string;
}

export interface Competition {
  readonly keyword: string;
  readonly volume: number | null;
  readonly pages: number;
  readonly competitors: readonly Competitor[];
}

/** So many competitors of a keyword are shown with all that is known of them. */
const MOST_COMPETITORS = 12;

/** Keywords that several pages have, with those pages under the drafts. */
export function competitionsFor(
  shared: readonly KeywordWithPages[],
  workspace: Workspace,
  pages: KeywordPages,
  { kinds }: SiteViews,
): Competition[] {
  const words = workspace.words();
  const views = new Map(kinds.map((view) => [view.kind, view]));
  const taken = pages.taken();
  const weights = pages.weights();
  return shared.map(({ keyword, volume, pages: count, at }) => {
    const own = new Set<string>();
    const isTaken = (key: string) => taken.has(key) || own.has(key);
    const competitors = at.slice(0, MOST_COMPETITORS).map((number): Competitor => {
      const page = pages.at(number);
      const view = views.get(page.kind)!;
      const instead = suggestFromName(words, weights, pages.about(page), isTaken)?.keyword ?? "";
      if (instead !== "") own.add(keywordKey(words, instead));
      const title = view.draft.title.textOf(page.row);
      return { ...pages.refOf(page), places: placesOf(workspace, view, page.row), title, instead };
    });
    return { keyword, volume, pages: count, competitors };
  });
}

/** Where a page's keyword stands under the drafts. */
function placesOf(workspace: Workspace, { data, draft }: KindView, row: number): Place[] {
  const words = workspace.words();
  const keyword = words.keyword(data.items.value("keyword", row));
  if (!keyword) return [];
  const isThere = (form: (typeof FORMS)[number] | undefined) =>
    form !== undefined && form !== "absent" && form !== "partial";
  const proved = (text: TextName) => isThere(FORMS[draft[text].form[row]! - 1]);
  const stands = (text: string) => isThere(placeKeyword(words, keyword, text).form);
  const { title } = draft;
  const visible = proved("title") && title.keywordSeen[row] === 1;
  const tests: Record<Place, () => boolean> = {
    title: () => proved("title"),
    "first third": () => visible && title.keywordAt[row]! <= workspace.lateFrom("title"),
    visible: () => visible,
    description: () => proved("description"),
    slug: () => proved("slug"),
    H1: () => stands(data.items.value("name", row)),
    "first paragraph": () => stands(data.items.value("intro", row)),
    body: () => stands(readBody(workspace.db, data.ids[row]!)),
  };
  return PLACES.filter((place) => tests[place]());
}
