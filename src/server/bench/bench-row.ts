import { type TextName, TEXTS } from "../../core/design/kinds";
import type { ProvableRow, RowProof } from "../../core/proof/row-proof";
import { type KindData } from "../workspace/kind-data";
import type { KnownProof } from "../workspace/proofs";

/** A row of a set as the interface gets it: everything that the core needs to prove it again in the browser. */
export interface BenchRow extends ProvableRow {
  readonly id: number;
  readonly row: number;
  readonly path: string;
  /** How many items read the same in the text that is looked at, itself included. */
  readonly same: number;
  readonly folder: string;
  /** The address that the kind’s address line puts together with the drafted slug; `null` where none does. */
  readonly address: string | null;
}

/** A row with the text that is looked at as the design that was asked about makes it: it is drawn before there is anything to prove it with. */
export interface DrawnRow extends BenchRow {
  readonly drawn: RowProof & { readonly of: TextName };
}

/** What rows of a kind are made from, under a design. */
export interface RowView {
  readonly data: KindData;
  readonly text: TextName;
  readonly known: Readonly<Record<TextName, KnownProof>>;
  /** Whether a line reads the body, which is left out otherwise: it is large. */
  readonly body: boolean;
  readonly stays: (row: number) => boolean;
  readonly addressOf: (row: number) => string | null;
}

/** A row as the interface gets it. */
export function benchRow({ data, text, known, body, stays, addressOf }: RowView, row: number): BenchRow {
  const hand = Object.fromEntries(
    TEXTS.flatMap((name) => (data.hands[name].has(row) ? [[name, data.hands[name].get(row)!]] : [])),
  );
  const each = <T>(of: (name: TextName) => T) => ({
    title: of("title"),
    description: of("description"),
    slug: of("slug"),
  });
  return {
    kind: data.kind,
    id: data.ids[row]!,
    row,
    path: data.paths[row]!,
    fields: data.fieldsOf(row, body),
    live: each((name) => data.live[name][row]!),
    hand,
    apart: each((name) => known[name].proof.apart[row]!),
    by: each((name) => {
      const { decision } = known[name];
      const line = decision.lines[decision.decides[row]!];
      return line ? (line.rule?.id ?? "base") : null;
    }),
    same: known[text].proof.groups.countOf(row),
    folder: data.folder(row),
    stays: stays(row),
    address: addressOf(row),
  };
}
