import { EMPTY_DESIGN } from "../../core/design/design";
import { EXTRAS, type ExtraName, type Kind } from "../../core/design/kinds";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { type ExtraDesk, type ExtraText, type ProvedExtra } from "./extra-desk";

/** What the worker answers for the extra texts. */
export const extraMethods = (workspace: Workspace, desk: ExtraDesk) => {
  const designOf = (kind: Kind) => workspace.drafts()[kind] ?? EMPTY_DESIGN;
  return {
    extras: (_: undefined, call: Call) =>
      workspace.kindsWithPages().map((kind) => {
        const on = EXTRAS.filter((extra) => workspace.site().extras[extra]);
        const proved = on.map((extra) => [extra, desk.prove(kind, designOf(kind), extra, watching(call))]);
        return { kind, extras: Object.fromEntries(proved) as Partial<Record<ExtraName, ProvedExtra>> };
      }),
    /** The extra texts of one page; `null` where it is not there. */
    extrasOfPage: ({ kind, id }: { kind: Kind; id: number }): readonly ExtraText[] | null => {
      const row = workspace.data(kind).rowOf(id);
      return row < 0 ? null : desk.texts(kind, designOf(kind), row, 1)[0]!;
    },
    extraRows: ({ kind, from, count }: { kind: Kind; from: number; count: number }) => {
      const data = workspace.data(kind);
      return desk.texts(kind, designOf(kind), from, count).map((texts, i) => ({
        kind,
        id: data.items.value("id", from + i),
        address: data.paths[from + i]!,
        texts,
      }));
    },
  };
};
