import { type Kind } from "../../core/design/kinds";
import { createEdit, type EditChange } from "../../store/edits";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { type Assignment, type KeywordDesk } from "./keyword-desk";

/** What the worker answers for keywords. */
export const keywordMethods = (workspace: Workspace, desk: KeywordDesk) => {
  /** Writes a step down that gives pages their keywords. */
  const make = (work: () => EditChange[], now: string) => {
    const labelled = (changes: EditChange[]) =>
      `${changes.length.toLocaleString("en")} focus keyword${changes.length === 1 ? "" : "s"} given`;
    const { plan, written } = workspace.settle(work, (changes) =>
      changes.length === 0 ? null : createEdit(workspace.db, labelled(changes), changes, now),
    );
    return { edit: written, label: labelled(plan), count: plan.length };
  };
  return {
    asking: {
      keywordMatrix: (_: undefined, call: Call) => desk.matrix(workspace.drafts(), watching(call)),
      keywordCoverage: ({ query }: { query: Parameters<KeywordDesk["coverage"]>[0] }) => desk.coverage(query),
      keywordSuggestions: ({ query }: { query: Parameters<KeywordDesk["suggestions"]>[0] }, call: Call) =>
        desk.suggestions(query, watching(call)),
      keywordsCompeting: ({ query }: { query: { from: number; count: number } }, call: Call) =>
        desk.competing(workspace.drafts(), query, watching(call)),
    },
    writing: {
      assignKeywords: ({ pages, now }: { pages: readonly Assignment[]; now: string }) =>
        make(() => desk.changesFor(pages), now),
      assignSuggested: (
        { kind, only, now }: { kind: Kind | "all"; only: "list" | "name" | null; now: string },
        call: Call,
      ) =>
        make(() => {
          const { suggestions } = desk.suggestions({ kind, from: 0, count: Infinity }, watching(call));
          return desk.changesFor(suggestions.filter(({ from }) => only === null || from === only));
        }, now),
    },
  };
};
