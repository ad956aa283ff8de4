import { type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import type { BenchRow } from "../../server/proof-engine";
import { ResultPreview } from "../proof/result-preview";
import { type LocalProof } from "../proof/local-proof";

/** The chosen page as desktop and phone results show it, both at true size, side by side below the rows. */
export function ResultsShelf({ row, proofs, site }: { row: BenchRow; proofs: Record<TextName, LocalProof>; site: Site }) {
  const shared = { site, title: proofs.title.text, description: proofs.description.text, path: row.folder + proofs.slug.text, keyword: row.fields["keyword"] ?? "" };
  return (
    <section aria-label="Results" className="flex h-[132px] shrink-0 gap-7 overflow-x-auto overflow-y-hidden border-t border-key bg-raised px-5 pt-2" tabIndex={0}>
      <div>
        <h2 className="text-[11px] font-semibold text-soft">Desktop result</h2>
        <ResultPreview device="desktop" {...shared} />
      </div>
      <div className="border-l border-hair pl-5">
        <h2 className="text-[11px] font-semibold text-soft">Phone result</h2>
        <ResultPreview device="phone" {...shared} />
      </div>
    </section>
  );
}
