import { type Site } from "../../core/design/design";
import { type TextName, TEXTS } from "../../core/design/kinds";
import { drawnKeyword, type DrawnKeyword } from "../../core/proof/drawn-keyword";
import { type ExplainedProof, rowProverOf } from "../../core/proof/row-proof";
import type { BenchRow } from "../../server/bench/bench-row";
import { type GoodDesign } from "./good-design";

/** One item proved in the browser: its three texts, and where its keyword stands in what the page itself says. */
export interface ItemProofs {
  readonly texts: Readonly<Record<TextName, ExplainedProof>>;
  readonly intro: DrawnKeyword | null;
  readonly name: DrawnKeyword | null;
}

export function itemProofs(row: BenchRow, lineOf: GoodDesign["lineOf"], site: Site): ItemProofs {
  const prover = rowProverOf(site);
  const proofs = TEXTS.map((name) => [name, prover.prove([row], (owner) => lineOf(owner, name), name)[0]!]);
  const standsIn = (field: string) =>
    drawnKeyword(site, row.fields["keyword"] ?? "", row.fields[field] ?? "", null, true);
  return {
    texts: Object.fromEntries(proofs) as ItemProofs["texts"],
    intro: standsIn("intro"),
    name: standsIn("name"),
  };
}
