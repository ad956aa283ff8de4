"use client";
import { useCallback, useEffect, useState } from "react";
import { toast } from "sonner";
import type { CallInput } from "../../server/api/contract";
import type { GonePage } from "../../store/gone";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { ago, count, counted } from "../shell/format";
import Link from "../shell/link";
import { useSite, useKindWord } from "../shell/site-context";

type Chosen = CallInput<"items.bringBack">["pages"];

/** The pages that the site has no more: what they were, since when; each can come back or be deleted for good. */
export function GonePages() {
  const { refresh } = useSite();
  const [search, setSearch] = useState("");
  const { pages, total, isWhole, more, reload, error } = useGonePages(search);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [deleting, setDeleting] = useState<{ pages: Chosen; count: number } | null>(null);
  const [busy, setBusy] = useState(false);

  const after = async (work: Promise<string>) => {
    setBusy(true);
    try {
      toast(await work);
    } catch (failure) {
      toast.error(wordsOf(failure));
    } finally {
      setBusy(false);
      setChosen(new Set());
      setDeleting(null);
      reload();
      void refresh();
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
  const which: Chosen = chosen.size > 0 ? [...chosen] : "all";
  const howMany = chosen.size > 0 ? chosen.size : total;
  const all = chosen.size > 0 ? `the ${count(chosen.size)} selected` : `all ${count(total)}`;
  const words = howMany === 1 ? "it" : all;

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
        <input
          type="search"
          aria-label="Search the gone pages"
          placeholder="Name, address or id"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          className="w-60 rounded-sm border border-edge bg-sheet px-2 py-1"
        />
        {total > 0 && (
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

/** The gone pages that hold what was typed, a page of them at a time. */
function useGonePages(search: string) {
  const [pages, setPages] = useState<readonly GonePage[]>([]);
  const [total, setTotal] = useState(0);
  const [isWhole, setWhole] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const [round, setRound] = useState(0);
  const fetchAfter = useCallback(
    async (after: number, signal?: AbortSignal) => {
      try {
        const answer = await call("items.gone", { after, search }, { signal });
        setPages((old) => (after === 0 ? answer.pages : [...old, ...answer.pages]));
        setTotal(answer.total);
        setWhole(answer.isWhole);
        setError(null);
      } catch (failure) {
        if (!signal?.aborted) setError(wordsOf(failure));
      }
    },
    [search],
  );
  useEffect(() => {
    const gone = new AbortController();
    void fetchAfter(0, gone.signal);
    return () => gone.abort();
  }, [fetchAfter, round]);
  return {
    pages,
    total,
    isWhole,
    error,
    more: () => void fetchAfter(pages.at(-1)?.id ?? 0),
    reload: () => setRound((old) => old + 1),
  };
}
