"use client";
import { Dialog } from "radix-ui";
import { useState } from "react";
import type { CallResult } from "../../server/api/contract";
import type { RedirectChange } from "../../server/redirects/redirect-set";
import type { NamedLink } from "../../server/review/review";
import { PLAIN_ACTION } from "../shell/actions";
import { counted } from "../shell/format";
import { useWindows } from "../shell/queries";
import { Tabs } from "../shell/tabs";
import { Trouble } from "../shell/trouble";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";

const TABS = [
  ["redirects", "Redirects"],
  ["links", "Links"],
] as const;

/** What the moves that are included do to redirects, and which links can follow them, one by one. */
export function MovesDialog({
  stamp,
  followsLinks,
  onClose,
}: {
  stamp: string;
  followsLinks: boolean;
  onClose: () => void;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-12 z-50 flex h-[calc(100vh-6rem)] w-[900px] max-w-[calc(100vw-1.5rem)] -translate-x-1/2 flex-col overflow-hidden rounded-sm border border-key bg-sheet shadow-[6px_6px_0_rgb(20_33_42/0.25)]"
        >
          <div className="flex items-baseline justify-between gap-4 px-5 py-3">
            <Dialog.Title className="text-[18px] font-bold">What the moves bring along</Dialog.Title>
            <Dialog.Close className={PLAIN_ACTION}>Close</Dialog.Close>
          </div>
          <Lists stamp={stamp} followsLinks={followsLinks} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Lists({ stamp, followsLinks }: { stamp: string; followsLinks: boolean }) {
  const [tab, setTab] = useState<(typeof TABS)[number][0]>("redirects");
  return (
    <Tabs
      label="What the moves bring along"
      tabs={TABS}
      tab={tab}
      onTab={setTab}
      panelClass="flex min-h-0 flex-1 flex-col"
    >
      <List key={tab} what={tab} stamp={stamp} followsLinks={followsLinks} />
    </Tabs>
  );
}

type Row = NamedLink | RedirectChange;

function List({ what, stamp, followsLinks }: { what: "redirects" | "links"; stamp: string; followsLinks: boolean }) {
  const windows = {
    size: LIST_WINDOW,
    rowsOf: (own: CallResult<"review.movesAlong">): readonly Row[] => own.rows,
  };
  const { rows, answer, error, show, retry } = useWindows("review.movesAlong", { what }, stamp, windows);
  if (error)
    return (
      <div className="px-5 py-3">
        <Trouble message={error} onRetry={retry} />
      </div>
    );
  if (!answer) return <p className="px-5 py-3 text-soft">…</p>;
  const { total } = answer;
  return (
    <>
      <p className="border-b border-hair px-5 py-2 text-soft" role="status">
        {what === "redirects"
          ? `${counted(total, "redirect", "redirects")} will come, lead elsewhere or end, chains already folded`
          : `${counted(total, "link or canonical", "links and canonicals")} ${followsLinks ? "will be rewritten" : "stay as they are, and take a redirect: tick “Rewrite” to change them"}`}
      </p>
      {total > 0 && (
        <Windowed label={`${what}, ${total} of them`} total={total} rows={rows} height={56} show={show}>
          {(own) => ("what" in own ? <RedirectRow change={own} /> : <LinkRow link={own} />)}
        </Windowed>
      )}
    </>
  );
}

const PATH = "block truncate font-mono text-[12px] leading-[18px]";
const CHANGE_WORDS: Record<RedirectChange["what"], string> = {
  comes: "New",
  "leads-elsewhere": "Leads elsewhere",
  ends: "Ends",
};

function RedirectRow({ change: { what, from, prefix, before, after } }: { change: RedirectChange }) {
  const target = (to: string | null) => (to === "" ? "gone for good" : to);
  return (
    <div className="grid h-full grid-cols-[120px_minmax(0,1fr)] items-center gap-4 px-5">
      <span className={what === "ends" ? "text-magenta" : "text-soft"}>{CHANGE_WORDS[what]}</span>
      <span className="min-w-0">
        <span className={`${PATH} text-soft`}>{prefix ? `${from}*` : from}</span>
        <span className={PATH}>
          → {what === "ends" ? <s>{target(before)}</s> : target(after)}
          {what === "leads-elsewhere" && <span className="text-soft">, not {target(before)}</span>}
        </span>
      </span>
    </div>
  );
}

function LinkRow({ link: { page, number, text, before, after } }: { link: NamedLink }) {
  const label = number === 0 ? "canonical" : "no text";
  return (
    <div className="grid h-full grid-cols-[240px_minmax(0,1fr)] items-center gap-4 px-5">
      <span className="min-w-0">
        <span className="block truncate">{text || <span className="text-soft">{label}</span>}</span>
        <span className="narrow block truncate text-[12px] text-soft">on {page}</span>
      </span>
      <span className="min-w-0">
        <span className={`${PATH} text-soft`}>{before}</span>
        <span className={PATH}>{after}</span>
      </span>
    </div>
  );
}
