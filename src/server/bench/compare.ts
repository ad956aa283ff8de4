import { type BenchDesk } from "./bench-desk";
import { type WorkWatch } from "../workspace/watch";
import { type KindDesign } from "../../core/design/design";
import { type Kind, type TextName, TEXTS } from "../../core/design/kinds";
import { orderRows } from "../../core/proof/order";
import { type TextSummary } from "../../core/proof/summary";
import { differs } from "../../core/proof/text-proof";
import { type Workspace } from "../workspace/workspace";

/** What two designs make of one text over the whole set. */
export interface ComparedText {
  readonly a: TextSummary;
  readonly b: TextSummary;
  /** Items whose texts differ. */
  readonly different: number;
}

/** One item under both designs. */
export interface ComparedItem {
  readonly id: number;
  readonly name: string;
  readonly a: string;
  readonly b: string;
  readonly aSize: number;
  readonly bSize: number;
  readonly aFits: boolean;
  readonly bFits: boolean;
}

export interface Comparison {
  readonly texts: Readonly<Record<TextName, ComparedText>>;
  /** Items that differ, those that differ most first; of them the stretch that was asked for. */
  readonly total: number;
  readonly items: readonly ComparedItem[];
}

/** Puts two designs of a kind side by side over the whole set. */
export function compareDesigns(
  workspace: Workspace,
  desk: BenchDesk,
  kind: Kind,
  a: KindDesign,
  b: KindDesign,
  query: { text: TextName; from: number; count: number },
  watch: WorkWatch,
): Comparison {
  const data = workspace.data(kind, watch);
  const proved = TEXTS.map((text) => ({
    text,
    a: workspace.textProof(kind, text, a, watch, "draft"),
    b: workspace.textProof(kind, text, b, watch, "other"),
  }));
  const texts = Object.fromEntries(
    proved.map(({ text, a: one, b: other }) => {
      let different = 0;
      for (let row = 0; row < one.proof.size; row++) if (differs(one.proof, other.proof, row)) different++;
      return [text, { a: desk.summary(kind, text, a, "draft"), b: desk.summary(kind, text, b, "other"), different }];
    }),
  ) as Record<TextName, ComparedText>;
  const shown = proved.find(({ text }) => text === query.text)!;
  const [one, other] = [shown.a.proof, shown.b.proof];
  const order = orderRows(other, one, workspace.lateFrom(query.text), "changed", "all", (row) =>
    differs(one, other, row),
  );
  const items: ComparedItem[] = [];
  for (let i = query.from; i < Math.min(order.length, query.from + query.count); i++) {
    const row = order[i]!;
    items.push({
      id: data.ids[row]!,
      name: data.items.value("name", row),
      a: one.textOf(row),
      b: other.textOf(row),
      aSize: one.sizes[row]!,
      bSize: other.sizes[row]!,
      aFits: one.fits[row] === 1,
      bFits: other.fits[row] === 1,
    });
  }
  return { texts, total: order.length, items };
}
