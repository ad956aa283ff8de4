"use client";
import { type RedirectAge, REDIRECT_AGES } from "../../core/addresses/redirect-forms";
import { toast } from "sonner";
import type { CallResult } from "../../server/api/contract";
import type { SetRedirect } from "../../server/redirects/redirect-set";
import { call } from "../shell/api";
import { counted, count, when } from "../shell/format";
import Link from "../shell/link";
import { useWindows } from "../shell/queries";
import { sayFailure } from "../shell/say-failure";
import { SearchBox } from "../shell/search-box";
import { Trouble } from "../shell/trouble";
import { LIST_WINDOW } from "../shell/asked";
import { Windowed } from "../shell/windowed";
import { type AddressesView, ORIGINS, STATES, STATUSES } from "./addresses-url";

const ORIGIN_LABELS: Record<(typeof ORIGINS)[number], string> = {
  all: "From anywhere",
  run: "From runs",
  hand: "By hand",
  file: "From files",
};
const STATE_LABELS: Record<(typeof STATES)[number], string> = {
  holds: "In use",
  faulty: "With a problem",
  retired: "Retired",
};
const AGE_LABELS: Record<RedirectAge, string> = {
  any: "Of any age",
  week: "Made in the last 7 days",
  month: "Made in the last 30 days",
  older: "Made over a year ago",
};
const FAULT_LABELS = {
  loop: "in a circle: left out",
  "dead end": "no page there",
  collision: "a page is at the old path: left out",
  double: "two targets: the newer counts",
} as const;

const SELECT = "rounded-sm border border-edge bg-sheet px-2 py-1";
const GRID = "minmax(0,1fr) 60px 150px 130px";
const TEXT_ACTION = "underline decoration-hair underline-offset-4 hover:decoration-key";

/** The redirects that are stored, searched and filtered; each can be retired and put back. */
export function RedirectList(props: {
  view: AddressesView;
  setView: (change: Partial<AddressesView>) => void;
  stamp: string;
  onChanged: () => void;
  /** Begins to write a redirect again, as it stands. */
  onRewrite: (line: string) => void;
}) {
  const { view, setView: change } = props;
  const { search, origin, state, age } = view;
  const status = view.status === "all" ? view.status : (Number(view.status) as SetRedirect["status"]);
  const windows = { size: LIST_WINDOW, rowsOf: (own: CallResult<"redirects.list">) => own.redirects };
  const filter = { search, origin, state, status, age };
  const { rows, answer, error, show, retry } = useWindows("redirects.list", filter, props.stamp, windows);
  const set = async (ids: number[], isRetired: boolean) => {
    await call(isRetired ? "redirects.retire" : "redirects.restore", { ids });
    props.onChanged();
  };
  const retire = async ({ id, from: path }: SetRedirect) => {
    await set([id], true);
    toast(`Retired: ${path}`, {
      duration: 10_000,
      action: { label: "Undo", onClick: () => void set([id], false).catch(sayFailure) },
    });
  };
  const total = answer?.total ?? 0;
  const isNarrowed = search !== "" || origin !== "all" || state !== "holds" || status !== "all" || age !== "any";
  return (
    <section aria-label="Redirects" className="flex min-h-0 min-w-0 flex-col small:h-[80dvh]">
      <div className="flex flex-wrap gap-2">
        <SearchBox
          label="Search redirects"
          placeholder="Search paths"
          value={search}
          onSearch={(typed) => change({ search: typed })}
          className="w-52"
        />
        <select
          aria-label="Where redirects are from"
          className={SELECT}
          value={origin}
          onChange={(event) => change({ origin: event.target.value as AddressesView["origin"] })}
        >
          {ORIGINS.map((own) => (
            <option key={own} value={own}>
              {ORIGIN_LABELS[own]}
            </option>
          ))}
        </select>
        <select
          aria-label="State of redirects"
          className={SELECT}
          value={state}
          onChange={(event) => change({ state: event.target.value as AddressesView["state"] })}
        >
          {STATES.map((own) => (
            <option key={own} value={own}>
              {STATE_LABELS[own]}
            </option>
          ))}
        </select>
        <select
          aria-label="Status of redirects"
          className={SELECT}
          value={view.status}
          onChange={(event) => change({ status: event.target.value as AddressesView["status"] })}
        >
          {STATUSES.map((own) => (
            <option key={own} value={own}>
              {own === "all" ? "Any status" : own}
            </option>
          ))}
        </select>
        <select
          aria-label="Age of redirects"
          className={SELECT}
          value={age}
          onChange={(event) => change({ age: event.target.value as AddressesView["age"] })}
        >
          {REDIRECT_AGES.map((own) => (
            <option key={own} value={own}>
              {AGE_LABELS[own]}
            </option>
          ))}
        </select>
        <span className="self-center text-soft" role="status">
          {answer && counted(total, "redirect", "redirects")}
        </span>
      </div>
      {error && <Trouble message={error} onRetry={retry} />}
      {answer && total > 0 && (
        <div className="mt-3 flex min-h-0 flex-1 flex-col bg-sheet">
          <div
            aria-hidden="true"
            className="grid gap-4 border-b border-key px-3 py-1.5 font-semibold small:hidden"
            style={{ gridTemplateColumns: GRID }}
          >
            <span>Old path, above where it leads</span>
            <span>Status</span>
            <span>Made</span>
          </div>
          <Windowed label={`Redirects, ${count(total)} of them`} total={total} rows={rows} height={62} show={show}>
            {(own) => (
              <div className="grid h-full items-center gap-4 px-3" style={{ gridTemplateColumns: GRID }}>
                <Paths redirect={own} />
                <span>{own.status}</span>
                <span className="min-w-0 truncate">
                  <Origin redirect={own} />
                </span>
                <span className="flex justify-end gap-3">
                  {own.retiredAt === null ? (
                    <>
                      <button
                        type="button"
                        className={TEXT_ACTION}
                        aria-label={`Change ${own.from}`}
                        onClick={() => props.onRewrite(lineOf(own))}
                      >
                        Change
                      </button>
                      <button
                        type="button"
                        className={TEXT_ACTION}
                        aria-label={`Retire ${own.from}`}
                        onClick={() => void retire(own).catch(sayFailure)}
                      >
                        Retire
                      </button>
                    </>
                  ) : (
                    <button
                      type="button"
                      className={TEXT_ACTION}
                      aria-label={`Use ${own.from} again`}
                      onClick={() => void set([own.id], false)}
                    >
                      Use again
                    </button>
                  )}
                </span>
              </div>
            )}
          </Windowed>
        </div>
      )}
      {answer && total === 0 && isNarrowed && <p className="mt-6 text-soft">No redirect matches.</p>}
    </section>
  );
}

/** A redirect as it is typed. */
function lineOf({ from, to, status, prefix }: SetRedirect): string {
  const star = prefix ? "*" : "";
  return [from + star, ...(to === "" ? [] : [to + star]), String(status)].join(" ");
}

function Paths({ redirect: { from, to, prefix, leadsTo, fault } }: { redirect: SetRedirect }) {
  const old = prefix ? `${from}*` : from;
  const target = to === "" ? "gone for good" : prefix ? `${to}*` : to;
  const isLedOn = leadsTo !== null && leadsTo !== to && to !== "";
  return (
    <div className="min-w-0 font-mono text-[12px] leading-[18px]">
      <span className="block truncate text-soft" title={old}>
        {old}
      </span>
      <span className="block truncate" title={target}>
        {target}
        {isLedOn && <span className="text-soft"> → {leadsTo === "" ? "gone for good" : leadsTo}</span>}
      </span>
      {fault && <span className="block truncate font-sans text-[12px] text-magenta">{FAULT_LABELS[fault]}</span>}
    </div>
  );
}

function Origin({ redirect: { origin, run, createdAt } }: { redirect: SetRedirect }) {
  return (
    <>
      {run === null ? (
        ORIGIN_LABELS[origin]
      ) : (
        <Link className="underline decoration-hair underline-offset-4" href={`/runs/${run}`}>
          Run {run}
        </Link>
      )}
      {createdAt && <span className="block text-[12px] text-soft">{when(createdAt)}</span>}
    </>
  );
}
