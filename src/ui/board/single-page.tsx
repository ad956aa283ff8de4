"use client";
import { useRef, useState } from "react";
import { ALL_PAGES } from "../../core/items/query";
import { type Kind, type TextName, textsOf } from "../../core/design/kinds";
import type { EditAction } from "../../server/edits/plan-edit";
import type { From } from "../../core/proof/text-proof";
import { type Editing } from "../items/cell-editor";
import { PAGE_TOOLS } from "../items/page-tools-later";
import { builtInColumns } from "../items/columns";
import type { ListedItem } from "../../server/items/listed-item";
import { roomOf } from "../../core/proof/site-room";
import { useEdits } from "../shell/edits";
import { useLater } from "../shell/later";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";

const FROM_WORDS: Record<From, string> = {
  hand: "by hand",
  rule: "by a rule",
  base: "by its line",
  live: "same as live",
};
const LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

/** The texts of a kind that has one page, and can have no more: they are written here. */
export function SinglePageCells({ kind }: { kind: Kind }) {
  const { state } = useSite();
  const site = state.site!;
  const [editing, setEditing] = useState<Editing | null>(null);
  const tools = useLater(PAGE_TOOLS, editing !== null);
  const edits = useEdits();
  const query = { ...ALL_PAGES, findings: [], side: "draft" as const, kind };
  const { answer, error } = useCall("items.list", { query, from: 0, count: 1, columns: [] }, siteStamp(state));
  const page = answer?.items[0] ?? null;
  const close = () => {
    const cell = editing?.anchor;
    setEditing(null);
    requestAnimationFrame(() => cell?.focus());
  };
  const change = (action: EditAction) =>
    void edits.make({ kind, id: editing!.item.id }, action).then((done) => done && close());
  return (
    <>
      {textsOf(kind).map((text) => (
        <TextCell
          key={text}
          kind={kind}
          text={text}
          page={page}
          error={error}
          onEdit={(anchor) =>
            setEditing({
              item: page!,
              column: builtInColumns(site, "plain").find(({ edits: field }) => field === text)!,
              anchor,
              typed: null,
            })
          }
        />
      ))}
      {editing && tools && (
        <tools.CellEditor
          editing={editing}
          site={site}
          onSave={(value) => change({ type: "set", field: editing.column.edits!, value })}
          onLetGo={() => change({ type: "let-go", field: editing.column.edits as TextName })}
          onClose={close}
        />
      )}
    </>
  );
}

function TextCell({
  kind,
  text,
  page,
  error,
  onEdit,
}: {
  kind: Kind;
  text: TextName;
  page: ListedItem | null;
  error: string | null;
  onEdit: (anchor: HTMLElement) => void;
}) {
  const { state } = useSite();
  const cell = useRef<HTMLButtonElement>(null);
  const { width, unit } = roomOf(state.site!, text);
  const own = page?.texts[text];
  return (
    <div className="flex min-w-0 flex-col border-b border-r border-hair bg-sheet first-of-type:border-l small:border-l">
      <button
        ref={cell}
        type="button"
        data-cell={`${kind}-${text}`}
        disabled={!page}
        aria-label={`${LABELS[text]}, ${own?.draft || "nothing"}: write it by hand`}
        onClick={() => onEdit(cell.current!)}
        className="flex flex-1 flex-col px-3.5 pb-1 pt-3 text-left hover:bg-cyan-pale"
      >
        <span aria-hidden="true" className="hidden font-semibold small:block">
          {LABELS[text]}
        </span>
        <span
          className="block break-words text-[15px] leading-[1.45]"
          style={{ fontFamily: text === "slug" ? "var(--font-mono)" : "var(--font-desktop)" }}
        >
          {own ? own.draft || <span className="text-magenta">Nothing: write it here</span> : (error ?? "…")}
        </span>
        {own && own.live !== own.draft && own.live !== "" && (
          <span className="mt-1 block break-words text-[12.5px] text-soft">On the site: {own.live}</span>
        )}
      </button>
      {own && (
        <p className="narrow flex flex-wrap items-center gap-x-3.5 px-3.5 pb-1.5 text-[12.5px] text-soft">
          <span className={own.draftFits ? "" : "font-semibold text-magenta"}>
            {Math.round(own.draftSize)} of {width} {unit}
          </span>
          <span>{FROM_WORDS[own.from]}</span>
          <Link
            href={`/bench?kind=${kind}&text=${text}`}
            className="ml-auto py-1 underline decoration-hair underline-offset-4 hover:text-key"
          >
            its line
          </Link>
        </p>
      )}
    </div>
  );
}
