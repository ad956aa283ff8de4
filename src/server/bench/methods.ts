import { type KindDesign } from "../../core/design/design";
import { EMPTY_DESIGN } from "../../core/design/design";
import { type Kind, type TextName } from "../../core/design/kinds";
import type { RawCondition } from "../../core/rules/condition-shape";
import { type Call } from "../threads/call";
import { watching } from "../workspace/watching";
import { type Workspace } from "../workspace/workspace";
import { BenchAddresses } from "./bench-addresses";
import { type BenchDesk, type RowQuery } from "./bench-desk";
import { compareDesigns } from "./compare";
import { fieldInfosOf, fieldValues } from "./field-infos";

type Asked = { readonly kind: Kind; readonly design: KindDesign };

/** What the worker answers for Bench, Board and comparison. */
export const benchMethods = (workspace: Workspace, desk: BenchDesk) => {
  const addresses = new BenchAddresses(workspace);
  const kindsOf = (kind: Kind | "all") => (kind === "all" ? workspace.kindsWithPages() : [kind]);
  const dataOf = (kind: Kind | "all", call: Call) => kindsOf(kind).map((own) => workspace.data(own, watching(call)));
  return {
    rows: ({ kind, design, query }: Asked & { query: RowQuery }, call: Call) =>
      desk.rows(kind, design, query, watching(call)),
    prove: ({ kind, design, view }: Asked & { view: Pick<RowQuery, "scope" | "text"> }, call: Call) =>
      desk.prove(kind, design, watching(call), view),
    board: (_: undefined, call: Call) =>
      workspace.kindsWithPages(watching(call)).map((kind) => {
        const design = workspace.drafts()[kind] ?? EMPTY_DESIGN;
        return { ...desk.prove(kind, design, watching(call)), examples: desk.examples(kind, design) };
      }),
    addresses: ({ kind, design }: Asked, call: Call) => addresses.prove(kind, design, watching(call)),
    item: ({ kind, design, text, id }: Asked & { text: TextName; id: number }, call: Call) =>
      desk.item(kind, design, text, id, watching(call)),
    fields: ({ kind }: { kind: Kind | "all" }, call: Call) => fieldInfosOf(dataOf(kind, call)),
    values: (
      { kind, field, search, most }: { kind: Kind | "all"; field: string; search: string; most: number },
      call: Call,
    ) => fieldValues(dataOf(kind, call), field, search, most),
    compare: (
      { kind, a, b, query }: { kind: Kind; a: KindDesign; b: KindDesign; query: Parameters<typeof compareDesigns>[5] },
      call: Call,
    ) => compareDesigns(workspace, desk, kind, a, b, query, watching(call)),
    preview: (
      { kind, design, when, above, texts }: Asked & { when: RawCondition; above: number; texts: readonly TextName[] },
      call: Call,
    ) => {
      const data = workspace.data(kind);
      const nameOf = (row: number) => ({ id: data.ids[row]!, name: data.items.value("name", row) });
      return workspace.rules(kind).preview(design, when, { above, texts }, nameOf, watching(call));
    },
  };
};
