"use client";
import { COVERAGE, type Coverage } from "../../core/keywords/places";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { PageLink } from "../shell/page-link";
import type { CallResult } from "../../server/api/contract";
import { useWindows } from "../shell/queries";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";

const LABELS: Record<Coverage, string> = {
  all: "All keywords",
  none: "On no page",
  one: "On one page",
  shared: "On several pages",
  unlisted: "Not on the list",
};
/** So many of the columns that a list brought along are shown. */
const MOST_COLUMNS = 3;

/** Every keyword, of the list and of pages, with who has it. */
export function CoverageList({
  show,
  search,
  stamp,
  onShow,
  onSearch,
  onCompeting,
  onBring,
}: {
  show: Coverage;
  search: string;
  stamp: string;
  onShow: (show: Coverage) => void;
  onSearch: (search: string) => void;
  onCompeting: () => void;
  onBring: () => void;
}) {
  const list = { show, search };
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"keywords.coverage">) => own.keywords };
  const { rows, answer, error, show: fetch } = useWindows("keywords.coverage", list, stamp, windows);
  const columns = (answer?.columns ?? []).slice(0, MOST_COLUMNS);
  const grid = `minmax(220px,1.2fr) 90px ${columns.map(() => "110px").join(" ")} minmax(280px,2fr) 100px`;
  const listed = answer !== null && answer.counts.unlisted < answer.counts.all;
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 border-b border-hair px-5 py-2">
        <input
          type="search"
          aria-label="Search keywords"
          placeholder="Search keywords"
          defaultValue={search}
          onChange={(event) => onSearch(event.target.value)}
          className="w-52 rounded-sm border border-edge bg-sheet px-2 py-1 placeholder:text-faint"
        />
        <div role="radiogroup" aria-label="Which keywords" className="flex flex-wrap gap-x-4">
          {COVERAGE.map((one) => (
            <button
              key={one}
              type="button"
              role="radio"
              aria-checked={show === one}
              data-coverage={one}
              onClick={() => onShow(one)}
              className={
                show === one
                  ? "py-1 font-semibold underline decoration-rule decoration-2 underline-offset-4"
                  : "py-1 text-soft hover:text-key"
              }
            >
              {LABELS[one]} <span className="narrow text-[12px]">{answer ? count(answer.counts[one]) : ""}</span>
            </button>
          ))}
        </div>
      </div>
      {error && <p className="px-5 py-3 text-magenta">{error}</p>}
      {answer && !listed && (
        <p className="border-b border-hair px-5 py-2 text-soft">
          These are the keywords your pages have. Import the list of keywords you want to rank for to see which ones no
          page covers yet.{" "}
          <button type="button" className={PLAIN_ACTION} onClick={onBring}>
            Import a list
          </button>
        </p>
      )}
      {answer && answer.total === 0 && <p className="px-5 py-6 text-soft">No keyword matches.</p>}
      {answer && answer.total > 0 && (
        <>
          <div
            aria-hidden="true"
            className="grid gap-4 border-b border-key bg-raised px-5 py-1.5 font-semibold text-soft small:hidden"
            style={{ gridTemplateColumns: grid }}
          >
            <span>Keyword</span>
            <span className="text-right">Volume</span>
            {columns.map((name) => (
              <span key={name} className="truncate">
                {name.replaceAll("_", " ")}
              </span>
            ))}
            <span>Pages</span>
            <span />
          </div>
          <Windowed
            label={`Keywords, ${count(answer.total)} of them`}
            total={answer.total}
            rows={rows}
            height={44}
            show={fetch}
          >
            {(own) => (
              <div className="grid h-full items-center gap-4 px-5" style={{ gridTemplateColumns: grid }}>
                <span className="min-w-0 truncate">
                  <mark className={own.pages > 0 ? "marker px-0.5 text-inherit" : "bg-transparent px-0.5 text-inherit"}>
                    {own.keyword}
                  </mark>
                </span>
                <span className="text-right">
                  {own.volume === null ? <span className="text-faint">–</span> : count(own.volume)}
                </span>
                {columns.map((name) => (
                  <span key={name} className="truncate">
                    {own.columns[name] ?? ""}
                  </span>
                ))}
                {own.pages === 0 ? (
                  <span className="text-magenta">no page</span>
                ) : (
                  <span className="grid min-w-0 grid-cols-2 gap-4">
                    {own.first.slice(0, 2).map((page) => (
                      <PageLink key={page.id} page={page} />
                    ))}
                  </span>
                )}
                <span className="text-right">
                  {own.pages > 1 ? (
                    <button
                      type="button"
                      className="text-magenta underline decoration-hair underline-offset-4"
                      onClick={onCompeting}
                    >
                      {counted(own.pages, "page", "pages")}
                    </button>
                  ) : (
                    <span className="text-soft">{own.listed ? "" : "not listed"}</span>
                  )}
                </span>
              </div>
            )}
          </Windowed>
        </>
      )}
    </>
  );
}
