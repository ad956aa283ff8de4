"use client";
import { useState } from "react";
import { type TextName } from "../../core/design/kinds";
import { LineText } from "../proof/line-text";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { counted } from "../shell/format";
import { useCall } from "../shell/queries";
import { useSite, useKindWord } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";

const LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

/** First lines for each kind, of what its pages have, with the reason for each; taken as drafts, which can be changed like any. */
export function FirstLines({ onClose }: { onClose: () => void }) {
  const kindWord = useKindWord();
  const { state, refresh } = useSite();
  const { answer: proposed, error } = useCall("designs.propose", {}, siteStamp(state));
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const able = (proposed ?? []).filter(({ lines }) => lines.some(({ line }) => line !== null));
  const kinds = able.map(({ kind }) => kind).filter((kind) => !left.has(kind));
  const take = async () => {
    setBusy(true);
    try {
      await call("designs.takeProposed", { kinds });
      await refresh();
      onClose();
    } catch (e) {
      setFailure(wordsOf(e));
    } finally {
      setBusy(false);
    }
  };
  const toggle = (kind: string) =>
    setLeft((old) => {
      const next = new Set(old);
      if (!next.delete(kind)) next.add(kind);
      return next;
    });
  return (
    <section aria-label="Suggested lines" className="mt-3 border border-hair bg-sheet px-4 py-3">
      {(error ?? failure) && (
        <p role="alert" className="text-magenta">
          {error ?? failure}
        </p>
      )}
      {proposed === null && !error && <p className="text-soft">Reading your pages …</p>}
      {proposed?.map(({ kind, pages, lines }) => (
        <div
          key={kind}
          className="grid grid-cols-[150px_minmax(0,1fr)] gap-4 border-b border-hair py-2 small:grid-cols-1"
        >
          <label className="flex items-baseline gap-2">
            <input
              type="checkbox"
              checked={kinds.includes(kind)}
              disabled={lines.every(({ line }) => line === null)}
              onChange={() => toggle(kind)}
            />
            <span>
              <b className="inline-block first-letter:uppercase">{kindWord(kind, pages === 1 ? 1 : 2)}</b>
              <span className="narrow block text-soft">{counted(pages, "page", "pages")}</span>
            </span>
          </label>
          <dl className="min-w-0">
            {lines.map(({ text, line, why }) => (
              <div key={text} className="grid grid-cols-[100px_minmax(0,1fr)] gap-2">
                <dt className="text-soft">{LABELS[text]}</dt>
                <dd className="min-w-0">
                  {line === null ? <span className="text-faint">none: </span> : <LineText source={line} />}{" "}
                  <span className="narrow text-[12.5px] text-soft">{why}</span>
                </dd>
              </div>
            ))}
          </dl>
        </div>
      ))}
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button type="button" className={MAIN_ACTION} disabled={busy || kinds.length === 0} onClick={() => void take()}>
          Use these as drafts
        </button>
        <button type="button" className={PLAIN_ACTION} onClick={onClose}>
          Not now
        </button>
        <span className="text-soft">
          They are drafts: edit them on the Bench. Nothing changes on a page until you apply it.
        </span>
      </div>
    </section>
  );
}
