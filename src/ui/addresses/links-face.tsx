"use client";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import type { CallResult } from "../../server/api/contract";
import type { LinkFigures } from "../../server/links/link-set";
import { capital } from "../../core/text/capital";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import Link from "../shell/link";
import { useCall, useWindows } from "../shell/queries";
import { sayFailure } from "../shell/say-failure";
import { FileLinks } from "../runs/file-links";
import { SearchBox } from "../shell/search-box";
import { useKindWord, useSite } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";
import { Trouble } from "../shell/trouble";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";
import { type AddressesView, SHOWN_LINKS, useAddressesView } from "./addresses-url";
import { LinkRow } from "./link-row";
import { FINDING_WORDS, SHOWN_WORDS } from "./link-words";
import { PageLink } from "../shell/page-link";

/** Bodies that wait are asked after so often, in ms. */
const ASK_AGAIN = 700;

/** The links inside the site: what is found of them, and what they are to say instead. */
export function LinksFace() {
  const { state, refresh } = useSite();
  const [turn, setTurn] = useState(0);
  const stamp = `${pagesStamp(state)} ${state.redirects} ${state.links} ${turn}`;
  const { answer, error, retry, progress } = useCall("links.figures", {}, stamp);
  const isReading = answer !== null && answer.unread > 0;
  useEffect(() => {
    if (!isReading) return;
    const timer = setTimeout(() => setTurn((own) => own + 1), ASK_AGAIN);
    return () => clearTimeout(timer);
  }, [isReading, turn]);
  if (error)
    return (
      <div className="px-6 py-4">
        <Trouble message={error} onRetry={retry} />
      </div>
    );
  if (!answer) return <p className="px-6 py-4 text-soft">{progress ? "Judging the links …" : ""}</p>;
  if (answer.bodies === 0)
    return (
      <p className="max-w-[60ch] px-6 py-4 text-soft">
        No page has a body yet. Links are read from bodies: import a file whose body column is mapped to <b>Body</b>.
      </p>
    );
  if (!answer.found) return <Reading bodies={answer.bodies} unread={answer.unread} />;
  return <Judged figures={answer.found} stamp={stamp} onChanged={() => void refresh()} />;
}

function Reading({ bodies, unread }: { bodies: number; unread: number }) {
  return (
    <div className="max-w-[420px] px-6 py-4">
      <p role="status">
        Reading the links of {counted(bodies, "body", "bodies")}: {count(bodies - unread)} read
      </p>
      <progress value={bodies - unread} max={bodies} aria-label="Bodies read" className="mt-2 block h-1.5 w-full" />
    </div>
  );
}

function Judged({ figures, stamp, onChanged }: { figures: LinkFigures; stamp: string; onChanged: () => void }) {
  const [view, setView] = useAddressesView();
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)] small:flex-none small:grid-cols-1">
      <Choice figures={figures} view={view} setView={setView} />
      <div className="flex min-h-0 min-w-0 flex-col border-l border-hair bg-sheet small:h-[80dvh]">
        {view.links === "orphans" ? (
          <Orphans figures={figures} view={view} setView={setView} stamp={stamp} />
        ) : (
          <LinkList view={view} shown={view.links} setView={setView} stamp={stamp} onChanged={onChanged} />
        )}
      </div>
    </div>
  );
}

type SetView = (change: Partial<AddressesView>) => void;

/** What is found, with how often; one is shown. */
function Choice({ figures, view, setView }: { figures: LinkFigures; view: AddressesView; setView: SetView }) {
  const counts: Record<AddressesView["links"], number> = {
    ...{ all: figures.links, mended: figures.mended, orphans: figures.orphans },
    ...figures.findings,
  };
  return (
    <div role="radiogroup" aria-label="Which links" className="overflow-auto py-3">
      {SHOWN_LINKS.map((own) => (
        <button
          key={own}
          type="button"
          role="radio"
          aria-checked={view.links === own}
          data-links={own}
          onClick={() => setView({ links: own })}
          className={`flex w-full items-baseline justify-between gap-3 px-5 py-1.5 text-left ${
            view.links === own ? "bg-sheet font-bold" : "hover:bg-raised"
          } ${own === "mended" ? "mt-3" : ""}`}
        >
          <span>{SHOWN_WORDS[own]}</span>
          <span className={counts[own] === 0 ? "text-faint" : ""}>{count(counts[own])}</span>
        </button>
      ))}
    </div>
  );
}

const GRID = "minmax(160px,1fr) minmax(200px,1.2fr) minmax(220px,1.5fr) 90px";

function LinkList({
  view,
  shown,
  setView,
  stamp,
  onChanged,
}: {
  view: AddressesView;
  shown: Exclude<AddressesView["links"], "orphans">;
  setView: SetView;
  stamp: string;
  onChanged: () => void;
}) {
  const filter = { finding: shown, search: view.words, on: view.on, to: view.to };
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"links.list">) => own.links };
  const { rows, answer, error, show, retry } = useWindows("links.list", filter, stamp, windows);
  const total = answer?.total ?? 0;
  const isOfPage = view.on !== null || view.to !== null;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-5 py-2">
        <SearchBox
          label="Search links"
          placeholder="Search links and pages"
          value={view.words}
          onSearch={(words) => setView({ words })}
          className="w-56"
        />
        <span className="text-soft" role="status">
          {answer && counted(total, "link", "links")}
          {view.on !== null && " on one page"}
          {view.to !== null && " to one page"}
          {(shown === "all" || shown === "mended" ? null : FINDING_WORDS[shown].about) && (
            <span className="small:hidden"> · {FINDING_WORDS[shown as keyof typeof FINDING_WORDS].about}</span>
          )}
        </span>
        {isOfPage && (
          <button type="button" className={PLAIN_ACTION} onClick={() => setView({ on: null, to: null })}>
            Of all pages
          </button>
        )}
        {total > 0 && (
          <FileLinks what="These links" href={`/api/out/links?${listQuery(filter)}`} formats={LIST_FORMATS} />
        )}
        <MendAll shown={shown} total={total} filter={filter} onChanged={onChanged} />
      </div>
      {error && (
        <div className="px-5 py-3">
          <Trouble message={error} onRetry={retry} />
        </div>
      )}
      {answer && total === 0 && <p className="px-5 py-6 text-soft">{nothingWords(shown, view.words !== "")}</p>}
      {answer && total > 0 && (
        <>
          <div
            aria-hidden="true"
            className="grid gap-4 border-b border-key bg-raised px-5 py-1.5 font-semibold text-soft small:hidden"
            style={{ gridTemplateColumns: GRID }}
          >
            <span>On the page</span>
            <span>Link</span>
            <span>Leads to</span>
            <span />
          </div>
          <Windowed label={`Links, ${count(total)} of them`} total={total} rows={rows} height={56} show={show}>
            {(own) => <LinkRow link={own} shown={shown} grid={GRID} onChanged={onChanged} />}
          </Windowed>
        </>
      )}
    </>
  );
}

const LIST_FORMATS = ["csv"] as const;

function listQuery({
  finding,
  search,
  on,
  to,
}: {
  finding: string;
  search: string;
  on: number | null;
  to: number | null;
}) {
  const asked = {
    finding,
    search,
    ...(on === null ? {} : { on: String(on) }),
    ...(to === null ? {} : { to: String(to) }),
  };
  return new URLSearchParams(asked).toString();
}

function nothingWords(shown: AddressesView["links"], isSearched: boolean): string {
  if (isSearched) return "No link matches.";
  return shown === "mended" ? "No link waits in the review." : "Nothing found: no link is like that.";
}

/** Takes every proposal of what is shown, or every mend back. */
function MendAll({
  shown,
  total,
  filter,
  onChanged,
}: {
  shown: Exclude<AddressesView["links"], "orphans">;
  total: number;
  filter: { finding: typeof shown; search: string; on: number | null; to: number | null };
  onChanged: () => void;
}) {
  const [busy, setBusy] = useState(false);
  if (total === 0 || (shown !== "broken" && shown !== "redirected" && shown !== "mended")) return null;
  const act = async (work: () => Promise<void>) => {
    setBusy(true);
    try {
      await work();
      onChanged();
    } catch (error) {
      toast.error(wordsOf(error));
    } finally {
      setBusy(false);
    }
  };
  const unmend = async (links: { item: number; href: string }[] | null) => {
    await call("links.unmend", { links });
    onChanged();
  };
  const mend = () =>
    act(async () => {
      const { links } = await call("links.mendAll", filter);
      const what =
        links.length === 0
          ? "No proposal for any of them"
          : `${counted(links.length, "link", "links")} wait in the review`;
      toast(
        what,
        links.length === 0
          ? {}
          : { duration: 10_000, action: { label: "Undo", onClick: () => void unmend([...links]).catch(sayFailure) } },
      );
    });
  if (shown === "mended")
    return (
      <span className="ml-auto flex gap-2">
        <Link className={PLAIN_ACTION} href="/review?text=body">
          Review them
        </Link>
        <button type="button" className={PLAIN_ACTION} disabled={busy} onClick={() => void act(() => unmend(null))}>
          Leave all as they are
        </button>
      </span>
    );
  return (
    <button type="button" className={`${PLAIN_ACTION} ml-auto`} disabled={busy} onClick={() => void mend()}>
      {shown === "redirected" ? "Point all at their targets" : "Take all proposals"}
    </button>
  );
}

function Orphans({
  figures,
  view,
  setView,
  stamp,
}: {
  figures: LinkFigures;
  view: AddressesView;
  setView: SetView;
  stamp: string;
}) {
  const kindWord = useKindWord();
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"links.orphans">) => own.pages };
  const { rows, answer, error, show, retry } = useWindows(
    "links.orphans",
    { kind: view.kind === "" ? null : view.kind },
    stamp,
    windows,
  );
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-5 py-2">
        <select
          aria-label="Kind of the pages"
          className="rounded-sm border border-edge bg-sheet px-2 py-1"
          value={view.kind}
          onChange={(event) => setView({ kind: event.target.value })}
        >
          <option value="">All kinds ({count(figures.orphans)})</option>
          {figures.orphansOfKinds.map(({ kind, count: many }) => (
            <option key={kind} value={kind}>
              {capital(kindWord(kind, many))} ({count(many)})
            </option>
          ))}
        </select>
        <span className="text-soft" role="status">
          {answer && counted(answer.total, "page", "pages")} that no link in another page’s body leads to. Menus and
          lists of the theme are not read.
        </span>
      </div>
      {error && (
        <div className="px-5 py-3">
          <Trouble message={error} onRetry={retry} />
        </div>
      )}
      {answer && answer.total > 0 && (
        <Windowed
          label={`Pages, ${count(answer.total)} of them`}
          total={answer.total}
          rows={rows}
          height={48}
          show={show}
        >
          {(page) => (
            <div className="flex h-full items-center px-5">
              <PageLink page={page} />
            </div>
          )}
        </Windowed>
      )}
    </>
  );
}
