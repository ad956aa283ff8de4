"use client";
import { useState } from "react";
import { type ExtraName, isPageExtra, type PageExtra } from "../../core/design/kinds";
import type { CallInput } from "../../server/api/contract";
import type { EditAction } from "../../server/edits/plan-edit";
import type { ExtraText } from "../../server/extras/extra-desk";
import { PLAIN_ACTION } from "../shell/actions";
import { fileName } from "../shell/format";
import { OneLineForm } from "../shell/one-line-form";
import { useCall } from "../shell/queries";

/** A page's extra texts: what is said of each of its images, its meta keywords; each can be written by hand. */
export function SheetExtras({
  page,
  stamp,
  onEdit,
}: {
  page: CallInput<"extras.page">;
  stamp: string;
  onEdit: (action: EditAction) => Promise<boolean>;
}) {
  const { answer: texts, error } = useCall("extras.page", page, stamp);
  return (
    <section aria-label="Extra texts" className="mt-4">
      <h3 className="border-b border-key pb-0.5 font-semibold">Extra texts</h3>
      {error && (
        <p role="alert" className="text-magenta">
          {error}
        </p>
      )}
      {texts?.length === 0 && <p className="mt-1.5 text-soft">No images in the page’s body</p>}
      <ul>
        {texts?.map((own) => (
          <Extra key={`${page.id} ${own.text} ${own.part}`} own={own} onEdit={onEdit} />
        ))}
      </ul>
    </section>
  );
}

const LABELS: Record<PageExtra, string> = { keywords: "Meta keywords", canonical: "Canonical" };
const EMPTY: Record<ExtraName, string> = {
  alt: "no description",
  keywords: "none",
  canonical: "the page’s own address",
};

function Extra({ own, onEdit }: { own: ExtraText; onEdit: (action: EditAction) => Promise<boolean> }) {
  const [isWriting, setWriting] = useState(false);
  const { text } = own;
  const label = isPageExtra(text) ? LABELS[text] : `Image ${own.part}: ${fileName(own.image)}`;
  const save = (value: string) => {
    const action: EditAction = isPageExtra(text)
      ? { type: "set", field: text, value }
      : { type: "describe", field: "alt", image: own.image, value };
    void onEdit(action).then((done) => done && setWriting(false));
  };
  const letGo = () =>
    void onEdit(
      isPageExtra(text) ? { type: "let-go", field: text } : { type: "undescribe", field: "alt", image: own.image },
    );
  return (
    <li className="border-b border-hair py-1.5 text-[12.5px]">
      <p className="text-soft" title={own.image}>
        {label}
        {own.from === "hand" && <b className="ml-1.5 text-key">by hand</b>}
      </p>
      <p className="break-words">
        {own.live !== "" && own.live !== own.draft && <del className="mr-1.5 text-faint">{own.live}</del>}
        {own.draft || <span className="text-faint">{EMPTY[text]}</span>}
      </p>
      {!isWriting ? (
        <p className="mt-1 flex gap-3">
          <button type="button" className={PLAIN_ACTION} onClick={() => setWriting(true)}>
            Write by hand
          </button>
          {own.from === "hand" && (
            <button type="button" className={PLAIN_ACTION} onClick={letGo}>
              Use the line again
            </button>
          )}
        </p>
      ) : (
        <OneLineForm label={label} start={own.draft} action="Save" onTake={save} onLeave={() => setWriting(false)} />
      )}
    </li>
  );
}
