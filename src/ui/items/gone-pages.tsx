"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { CallInput } from "../../server/api/contract";
import type { GonePage } from "../../store/gone";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { ago, count, counted } from "../shell/format";
import Link from "../shell/link";
import { SearchBox } from "../shell/search-box";
import { useSite, useKindWord } from "../shell/site-context";
import { useGonePages } from "./use-gone-pages";

type Chosen = CallInput<"items.bringBack">["pages"];

/** The pages that the site has no more: what they were, since when; each can come back or be deleted for good. */
export function GonePages() {
  const { state, refresh } = useSite();
  const [typed, setTyped] = useState("");
  const { pages, total, found, search, isWhole, more, error } = useGonePages(typed, `${state.revision} ${state.gone}`);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [deleting, setDeleting] = useState<{ pages: Chosen; count: number } | null>(null);
  const [busy, setBusy] = useState(false);

  const after = async (work: Promise<string>) => {
    setBusy(true);
    try {
      toast(await work);
      setChosen(new Set());
      setDeleting(null);
    } catch (failure) {
      toast.error(wordsOf(failure));
    } finally {
      setBusy(false);
      refresh().catch(() => {});
    }
  };
  const bringBack = (which: Chosen) =>
    after(
      call("items.bringBack", { pages: which }).then(({ back, stay }) => {
        const but = `${counted(stay, "page stays", "pages stay")} gone: another page now has the address or id`;
        return `${counted(back, "page is", "pages are")} back${stay > 0 ? `; ${but}` : ""}`;
      }),
    );
  const goneForGood = (which: Chosen) =>
    after(
      call("redirects.goneForGood", { pages: which }).then(({ added, answered }) => {
        const but = `${counted(answered, "address", "addresses")} had a page or a redirect already`;
        return `${counted(added, "address is", "addresses are")} gone for good in the redirects${answered > 0 ? `; ${but}` : ""}`;
      }),
    );
  const remove = (which: Chosen, typed: number) =>
    after(
      call("items.deleteGone", { pages: which, count: typed }).then(
        ({ deleted }) => `${counted(deleted, "page is", "pages are")} deleted for good`,
      ),
    );
  const toggle = (id: number) =>
    setChosen((old) => {
      const next = new Set(old);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const which: Chosen = chosen.size > 0 ? [...chosen] : { search };
  const howMany = chosen.size > 0 ? chosen.size : found;
  const words = whichWords(howMany, chosen.size > 0 ? "selected" : found < total ? "found" : "all");

  return (
    <div className="h-full overflow-auto px-6 py-4 small:px-3">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h1 className="text-[22px] font-bold">{counted(total, "gone page", "gone pages")}</h1>
        <p className="text-soft">
          These pages were missing from a complete import. They are kept, but left out of every count, list and line.{" "}
          <Link href="/pages" className="underline underline-offset-4">
            All pages
          </Link>
        </p>
      </div>
      {error && (
        <p role="alert" className="mt-3 text-magenta">
          {error}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <SearchBox
          label="Search the gone pages"
          placeholder="Name, address or id"
          value={typed}
          onSearch={setTyped}
          className="w-60"
        />
        {howMany > 0 && (
          <>
            <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void bringBack(which)}>
              Restore {words}
            </button>
            <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void goneForGood(which)}>
              Answer 410 Gone for {words}
            </button>
            <button
              type="button"
              className={PLAIN_ACTION}
              disabled={busy}
              onClick={() => setDeleting({ pages: which, count: howMany })}
            >
              Delete {words} for good …
            </button>
          </>
        )}
      </div>
      {deleting && <DeleteQuestion {...deleting} busy={busy} onDelete={remove} onCancel={() => setDeleting(null)} />}
      {pages.length > 0 && (
        <table className="mt-3 w-full border-collapse bg-sheet">
          <thead>
            <tr className="border-b border-key text-left">
              {["Selected", "Page", "Kind", "Address", "Gone"].map((heading) => (
                <th key={heading} scope="col" className="px-3 py-2 font-semibold">
                  {heading === "Selected" ? <span className="sr-only">{heading}</span> : heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {pages.map((page) => (
              <GoneRow key={page.id} page={page} chosen={chosen.has(page.id)} onToggle={toggle} />
            ))}
          </tbody>
        </table>
      )}
      {pages.length === 0 && isWhole && (
        <p className="mt-6 text-soft">
          {total === 0
            ? "No page is gone. A page is marked as gone when it is missing from a complete import."
            : "No gone page has that in its name, address or id."}
        </p>
      )}
      {!isWhole && pages.length > 0 && (
        <button type="button" className={`${PLAIN_ACTION} mt-3`} onClick={more}>
          Show more
        </button>
      )}
    </div>
  );
}

/** How the pages that something is done to are called on its button. */
function whichWords(howMany: number, which: "selected" | "found" | "all"): string {
  if (which === "all") return howMany === 1 ? "it" : `all ${count(howMany)}`;
  return howMany === 1 ? `the one ${which}` : `the ${count(howMany)} ${which}`;
}

function GoneRow({ page, chosen, onToggle }: { page: GonePage; chosen: boolean; onToggle: (id: number) => void }) {
  const kindWord = useKindWord();
  const name = page.name || page.title || (page.key ?? "");
  return (
    <tr className="border-b border-hair align-top hover:bg-raised">
      <td className="w-8 px-3 py-2">
        <input type="checkbox" aria-label={`Select ${name}`} checked={chosen} onChange={() => onToggle(page.id)} />
      </td>
      <td className="px-3 py-2">
        <span className="font-semibold">{name}</span>
        {page.key !== null && <span className="narrow ml-2 text-[12px] text-soft">{page.key}</span>}
      </td>
      <td className="px-3 py-2">{kindWord(page.kind, 1)}</td>
      <td className="break-all px-3 py-2 font-mono text-[12.5px]">{page.path}</td>
      <td className="px-3 py-2">
        {ago(page.goneAt)}
        {page.file && (
          <Link href={`/runs/in/${page.import}`} className="ml-2 text-soft underline underline-offset-4">
            {page.file}
          </Link>
        )}
      </td>
    </tr>
  );
}

/** Asks for the number of pages before they are deleted: what is typed has to be what is there. */
function DeleteQuestion({
  pages,
  count: howMany,
  busy,
  onDelete,
  onCancel,
}: {
  pages: Chosen;
  count: number;
  busy: boolean;
  onDelete: (pages: Chosen, typed: number) => void;
  onCancel: () => void;
}) {
  const [typed, setTyped] = useState("");
  const isRight = typed.trim() === String(howMany);
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-3 border-l-4 border-magenta bg-sheet px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isRight) onDelete(pages, howMany);
      }}
    >
      <label className="flex flex-wrap items-center gap-2">
        {counted(howMany, "page", "pages")} with all {howMany === 1 ? "it" : "they"} had cannot come back then. Type{" "}
        {howMany} to delete {howMany === 1 ? "it" : "them"}:
        <input
          autoFocus
          inputMode="numeric"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className="w-24 rounded-sm border border-edge bg-sheet px-2 py-1"
        />
      </label>
      <button type="submit" className={PLAIN_ACTION} disabled={!isRight || busy}>
        Delete for good
      </button>
      <button type="button" className={PLAIN_ACTION} onClick={onCancel}>
        Cancel
      </button>
    </form>
  );
}
