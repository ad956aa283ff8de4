import { type Kind } from "../../core/design/kinds";
import { type ItemQuery } from "../../core/items/query";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { type Choice, chosenPages, siteIdsOf } from "./chosen-pages";
import { type ItemsList } from "./items-list";

/** What the worker answers for the list of all pages. */
export const itemMethods = (workspace: Workspace, list: ItemsList) => ({
  items: ({ query, stretch }: { query: ItemQuery; stretch: Parameters<ItemsList["list"]>[2] }, call: Call) =>
    list.list(workspace.drafts(), query, stretch, watching(call)),
  sheet: ({ kind, id }: { kind: Kind; id: number }) => list.sheet(workspace.drafts(), kind, id),
  idsOf: ({ choice }: { choice: Choice }) => siteIdsOf(workspace, chosenPages(list, workspace.drafts(), choice)),
});
