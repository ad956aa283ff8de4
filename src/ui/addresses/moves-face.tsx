"use client";
import { toast } from "sonner";
import type { CallResult } from "../../server/api/contract";
import { PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import Link from "../shell/link";
import { progressLine } from "../shell/progress-words";
import { useCall, useWindows } from "../shell/queries";
import { FileLinks } from "../runs/file-links";
import { InTurn } from "../shell/in-turn";
import { SearchBox } from "../shell/search-box";
import { useSite } from "../shell/site-context";
import { SideFold } from "../shell/side-fold";
import { Trouble } from "../shell/trouble";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";
import { useState } from "react";
import { movesStamp } from "./addresses-asked";
import { SHOWN_MOVES, type AddressesView, useAddressesView } from "./addresses-url";
import { FolderBands } from "./folder-bands";
import { MoveRow } from "./move-row";
import { useOpening } from "../shell/use-opening";

type Folders = CallResult<"review.folders">;

const SHOWN_WORDS: Record<AddressesView["moves"], string> = {
  all: "All moves",
  included: "Included in the review",
  held: "Held back",
};

/** Where pages go: folders now and after, and each page’s old path above its new one. */
export function MovesFace({ opened }: { opened: string }) {
  const { state } = useSite();
  const [view, setView] = useAddressesView();
  const [ticks, setTicks] = useState(0);
  const stamp = movesStamp(state, useOpening(opened), ticks);
  const { answer, error, retry, progress } = useCall("review.folders", { within: view.folder }, stamp);
  if (error)
    return (
      <div className="px-6 py-4">
        <Trouble message={error} onRetry={retry} />
      </div>
    );
  if (!answer)
    return (
      <p className="px-6 py-4 text-soft" role="status">
        {(progress && progressLine(state.site, progress)) ?? "Comparing addresses …"}
      </p>
    );
  return (
    <>
      <Figures figures={answer.figures} />
      <div className="grid min-h-0 flex-1 grid-cols-[432px_minmax(0,1fr)] small:flex-none small:grid-cols-1">
        <section
          aria-label="Folders"
          className="min-h-0 overflow-auto px-3 py-3 small:border-b small:border-key small:py-1"
        >
          <SideFold label="Folders" now={view.folder === "/" ? "all" : view.folder}>
            <Folder within={view.folder} setView={setView} />
            <FolderBands
              nodes={answer.nodes}
              flows={answer.flows}
              within={view.folder}
              onFolder={(folder) => setView({ folder })}
            />
            {answer.more > 0 && (
              <p className="pt-1 text-center text-[12px] text-soft">
                and {counted(answer.more, "other folder", "other folders")}, in which less moves
              </p>
            )}
          </SideFold>
        </section>
        <MoveList view={view} setView={setView} stamp={stamp} onTicked={() => setTicks((own) => own + 1)} />
      </div>
    </>
  );
}

function Figures({ figures: { included, left, held, gets } }: { figures: Folders["figures"] }) {
  const parts = [
    [included, included === 1 ? "address moves" : "addresses move"],
    [gets, gets === 1 ? "page gets its first address" : "pages get their first address"],
    [left, "more could, and are not included"],
  ] as const;
  const isNone = included + left + held + gets === 0;
  return (
    <div
      className="flex flex-wrap items-baseline gap-x-7 gap-y-1 border-b border-hair bg-sheet px-5 py-2.5"
      role="status"
    >
      {isNone && <span className="text-soft">No address changes. Address lines are written on the Bench.</span>}
      {!isNone &&
        parts.map(([many, words]) =>
          many > 0 || words === parts[0][1] ? (
            <span key={words}>
              <b className="text-[16px]">{count(many)}</b> {words}
            </span>
          ) : null,
        )}
      {held > 0 && (
        <span className="text-magenta">
          <b className="text-[16px]">{count(held)}</b> held back
        </span>
      )}
      <span className="ml-auto flex gap-2">
        <Link className={PLAIN_ACTION} href="/bench?text=slug">
          Address lines
        </Link>
        {!isNone && (
          <Link className={PLAIN_ACTION} href="/review?group=moves">
            Review
          </Link>
        )}
      </span>
    </div>
  );
}

/** The folder that is looked into, each of those above it to go back to. */
function Folder({ within, setView }: { within: string; setView: (change: Partial<AddressesView>) => void }) {
  const segments = within.split("/").filter(Boolean);
  const folders = ["/", ...segments.map((_, i) => `/${segments.slice(0, i + 1).join("/")}/`)];
  return (
    <div className="flex justify-between gap-3 pb-2 font-bold">
      <nav aria-label="Folder" className="min-w-0 break-all">
        {folders.map((folder, i) =>
          i === folders.length - 1 ? (
            <span key={folder} aria-current="true">
              {i === 0 ? "Folders now" : <span className="font-mono text-[12.5px]">/{segments[i - 1]}</span>}
            </span>
          ) : (
            <button
              key={folder}
              type="button"
              className="font-normal underline decoration-hair underline-offset-4 hover:decoration-key"
              onClick={() => setView({ folder })}
            >
              {i === 0 ? "All folders" : <span className="font-mono text-[12.5px]">/{segments[i - 1]}</span>}
            </button>
          ),
        )}
      </nav>
      <span>after</span>
    </div>
  );
}

function MoveList({
  view,
  setView,
  stamp,
  onTicked,
}: {
  view: AddressesView;
  setView: (change: Partial<AddressesView>) => void;
  stamp: string;
  onTicked: () => void;
}) {
  const { folder, moves: shown, words } = view;
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"review.moves">) => own.moves };
  const list = useWindows("review.moves", { folder, search: words, show: shown }, stamp, windows);
  const total = list.answer?.total ?? 0;
  const [turns] = useState(() => new InTurn());
  const tick = async (item: number, included: boolean) => {
    list.patch((row) => (row.id === item ? { ...row, included } : row));
    try {
      await turns.do(() => call("review.chooseChange", { item, text: "slug", included }));
    } catch (error) {
      toast.error(wordsOf(error));
      list.retry();
    } finally {
      // What is asked for before the last one is there would show those that wait as they were.
      if (turns.isIdle) onTicked();
    }
  };
  return (
    <div className="flex min-h-0 min-w-0 flex-col border-l border-hair bg-sheet small:h-[80dvh]">
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-5 py-2">
        <SearchBox
          label="Search moves"
          placeholder="Search paths and names"
          value={words}
          onSearch={(typed) => setView({ words: typed })}
          className="w-52"
        />
        <select
          aria-label="Which moves"
          className="rounded-sm border border-edge bg-sheet px-2 py-1"
          value={shown}
          onChange={(event) => setView({ moves: event.target.value as AddressesView["moves"] })}
        >
          {SHOWN_MOVES.map((own) => (
            <option key={own} value={own}>
              {SHOWN_WORDS[own]}
            </option>
          ))}
        </select>
        <span className="text-soft" role="status">
          {list.answer && counted(total, "page", "pages")}
          {folder !== "/" && (
            <>
              {" "}
              from or to <span className="font-mono text-[12px]">{folder}</span>
            </>
          )}
        </span>
        {total > 0 && (
          <span className="ml-auto flex gap-2">
            <FileLinks
              what="These moves"
              href={`/api/out/moves?${new URLSearchParams({ folder, search: words, show: shown }).toString()}`}
              formats={["csv"]}
            />
          </span>
        )}
      </div>
      {list.error && (
        <div className="px-5 py-3">
          <Trouble message={list.error} onRetry={list.retry} />
        </div>
      )}
      {list.answer && total === 0 && (
        <p className="px-5 py-6 text-soft">
          {words === "" && shown === "all" && folder === "/" ? "Every page stays where it is." : "No move matches."}
        </p>
      )}
      {total > 0 && (
        <Windowed label={`Moves, ${count(total)} of them`} total={total} rows={list.rows} height={58} show={list.show}>
          {(move) => <MoveRow move={move} onTick={(included) => void tick(move.id, included)} />}
        </Windowed>
      )}
    </div>
  );
}
