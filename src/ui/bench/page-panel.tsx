"use client";
import { type ReactNode, type RefCallback } from "react";
import { type KindDesign, type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { type SuggestedRule } from "../../core/design/rule-from-item";
import { PANEL_WIDTH } from "./use-bench-room";
import { type ShownPage } from "./use-shown-page";

/** The chosen page in full. */
export function PagePanel({
  page: { row, drawn },
  hasPreview,
  isLoading,
  text,
  site,
  design,
  onMakeRule,
}: {
  page: ShownPage;
  /** Whether there is room for the preview on top of it. */
  hasPreview: boolean;
  isLoading: boolean;
  text: TextName;
  site: Site;
  design: KindDesign;
  /** @param owner the rule that decides on the page now, or `base`. */
  onMakeRule: (suggested: SuggestedRule, owner: string) => void;
}) {
  if (!row && !isLoading) return <p className="p-4 text-soft">Select a page to see it in full</p>;
  if (!drawn) return null;
  const { parts, proofs } = drawn;
  return (
    <>
      {hasPreview && <parts.ResultsBeside row={drawn.row} proofs={proofs.texts} site={site} />}
      <parts.ItemPanel
        row={drawn.row}
        proofs={proofs}
        text={text}
        site={site}
        design={design}
        onMakeRule={(suggested) => onMakeRule(suggested, drawn.row.by[text] ?? "base")}
      />
    </>
  );
}

/** The chosen page over the rows, where there is no room for it beside them. */
export function PageOver({
  watch,
  onClose,
  children,
}: {
  watch: RefCallback<Element>;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <aside
      ref={watch}
      aria-label="The selected page"
      tabIndex={0}
      className="absolute bottom-0 right-0 top-0 z-20 max-w-full overflow-auto small:fixed small:inset-0 small:z-40 small:!w-full border-l border-key bg-desk shadow-[-6px_0_0_rgb(20_33_42/0.12)]"
      style={{ width: PANEL_WIDTH }}
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <button
        type="button"
        className="ml-3.5 mt-2 text-soft underline decoration-hair underline-offset-4 hover:text-key"
        onClick={onClose}
      >
        Close
      </button>
      {children}
    </aside>
  );
}
