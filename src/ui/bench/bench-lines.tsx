"use client";
import { type RefObject } from "react";
import { linesOf, withLine } from "../../core/design/change-rules";
import { textsOf } from "../../core/design/kinds";
import { Later, useLater } from "../shell/later";
import { type BenchView } from "./bench-codec";
import { LineRow, TEXT_LABELS } from "./line-row";
import { type Draft } from "./use-draft";
import { type ProvedDraft } from "./use-proved-draft";

const ADDRESS_ROW = new Later(() => import("./address-row"));

/** The lines of the base or of a rule with their figures; with the slug line of the base, the line of the addresses. */
export function BenchLines({
  view: { kind, text },
  setView,
  owner,
  draft: { design, change, undo, redo },
  provedDraft: { fields, known, parsed, good, data, proved },
  stamp,
  insertAt,
}: {
  view: BenchView;
  setView: (change: Partial<BenchView>) => void;
  /** `base`, or the id of the rule whose lines are shown. */
  owner: string;
  draft: Draft;
  provedDraft: ProvedDraft;
  /** Of the site's pages. */
  stamp: string;
  /** Where what is inserted goes: into the line in hand. */
  insertAt: RefObject<((text: string, cursor?: number) => void) | null>;
}) {
  const hasAddress = text === "slug" && owner === "base";
  const address = useLater(ADDRESS_ROW, text === "slug");
  const lines = linesOf(design, owner);
  const names = textsOf(kind);
  return (
    <div
      data-figures-of={data.design ? (linesOf(data.design, owner)[text] ?? "") : undefined}
      className="max-h-[calc((100dvh-44px)*0.45)] shrink-0 overflow-auto border-b border-key px-4 py-1 small:max-h-none"
    >
      {names.map((name, i) => {
        const label = TEXT_LABELS[name].toLowerCase();
        return (
          <LineRow
            key={`${kind} ${owner} ${name}`}
            name={name}
            active={name === text}
            last={i === names.length - 1}
            line={parsed(lines[name])}
            value={lines[name] ?? ""}
            placeholder={
              owner === "base"
                ? "No line: the live text stays. Type text, or { for a field"
                : `No ${label} line here: the next match decides`
            }
            fields={fields}
            proved={proved}
            onChange={(value) =>
              change((now) => withLine(now, owner, name, value), `${label} line`, `${owner} ${name}`)
            }
            onOpen={(filter) => setView({ text: name, ...(filter ? { filter } : {}) })}
            onUndo={undo}
            onRedo={redo}
            insertAt={insertAt}
          />
        );
      })}
      {hasAddress && !address && <div className="address-row border-t border-hair" />}
      {hasAddress && address && (
        <address.AddressRow
          key={kind}
          kind={kind}
          design={design}
          good={good.design}
          known={known}
          fields={fields}
          stamp={stamp}
          onChange={(next, what, step) => change(next, what, `base ${step}`)}
          onUndo={undo}
          onRedo={redo}
        />
      )}
    </div>
  );
}
