import { EMPTY_DESIGN } from "../../core/design/design";
import { EXTRAS, type ExtraName, type Kind } from "../../core/design/kinds";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { type ExtraDesk, type ProvedExtra } from "./extra-desk";

/** What the worker answers for the extra texts. */
export const extraMethods = (workspace: Workspace, desk: ExtraDesk) => ({
  extras: (_: undefined, call: Call) =>
    workspace.boardKinds().map((kind) => {
      const on = EXTRAS.filter((extra) => workspace.site().extras[extra]);
      const design = workspace.drafts()[kind] ?? EMPTY_DESIGN;
      const proved = on.map((extra) => [extra, desk.prove(kind, design, extra, watching(call))]);
      return { kind, extras: Object.fromEntries(proved) as Partial<Record<ExtraName, ProvedExtra>> };
    }),
  extraRows: ({ kind, from, count }: { kind: Kind; from: number; count: number }) => {
    const data = workspace.data(kind);
    const design = workspace.drafts()[kind] ?? EMPTY_DESIGN;
    const texts = (extra: ExtraName) =>
      workspace.site().extras[extra] ? desk.texts(kind, design, extra, from, count) : null;
    const [alts, keywords] = [texts("alt"), texts("keywords")];
    return Array.from({ length: Math.max(0, Math.min(count, data.ids.length - from)) }, (_, i) => ({
      kind,
      id: data.items.value("id", from + i),
      address: data.paths[from + i]!,
      alt: alts?.[i] ?? null,
      keywords: keywords?.[i] ?? null,
    }));
  },
});
