import { type Designs } from "../../core/design/designs";
import { type Kind, kindWord } from "../../core/design/kinds";
import { type ItemQuery, type Ranges } from "../../core/items/query";
import { EditError } from "../edits/plan-edit";
import { type Workspace } from "../workspace/workspace";
import { type ItemsList, type PlacedItem } from "./items-list";

/** Pages at places in the order that a query gives, or one page. `order` is that of the list that they were chosen in. */
export type Choice = { query: ItemQuery; ranges: Ranges; order: string } | { kind: Kind; id: number };

/** So many values a condition can name. */
const MOST_IDS = 5000;

/** The chosen pages. @throws {EditError} where the list is another one by now, or the page is gone. */
export function chosenPages(list: ItemsList, designs: Designs, choice: Choice): PlacedItem[] {
  if ("id" in choice) {
    const page = list.byId(designs, choice.kind, choice.id);
    if (!page) throw new EditError("That page no longer exists", "not-found");
    return [page];
  }
  const { order } = list.list(designs, choice.query, { from: 0, count: 0, columns: [] });
  if (order !== choice.order)
    throw new EditError("The list has changed since you selected these pages; select them again", "stale");
  return list.chosen(designs, choice.query, choice.ranges);
}

/** The kind and the sites' own ids of pages. @throws {EditError} where they are of several kinds, or one has no id. */
export function siteIdsOf(workspace: Workspace, pages: readonly PlacedItem[]): { kind: Kind; ids: string[] } {
  const kinds = [...new Set(pages.map(({ view }) => view.kind))];
  if (kinds.length === 0) throw new EditError("No page is selected");
  if (kinds.length > 1) {
    const words = kinds.map((kind) => kindWord(workspace.site(), kind, 2)).join(" and ");
    throw new EditError(`The selected pages are ${words}: a rule is for one kind. Choose a kind above the list first`);
  }
  if (pages.length > MOST_IDS)
    throw new EditError(
      `A rule can name ${MOST_IDS.toLocaleString("en")} pages one by one; ${pages.length.toLocaleString("en")} are selected. Make a rule from what they have in common`,
    );
  const ids = pages.map(({ view, row }) => workspace.data(view.kind).items.value("id", row));
  if (ids.includes("")) throw new EditError("Some of the selected pages have no id, which the rule needs to find them");
  return { kind: kinds[0]!, ids };
}
