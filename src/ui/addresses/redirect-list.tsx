"use client";
import { useState } from "react";
import { type RedirectAge, REDIRECT_AGES } from "../../core/addresses/redirect-forms";
import { toast } from "sonner";
import type { SetRedirect } from "../../server/redirects/redirect-set";
import { PLAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import { counted, count, when } from "../shell/format";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { SearchBox } from "../shell/search-box";
import { Trouble } from "../shell/trouble";
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

/** So many are shown at once. */
const PAGE = 100;
const SELECT = "rounded-sm border border-edge bg-sheet px-2 py-1";

/** The redirects that are stored, searched and filtered; each can be retired and put back. */
export function RedirectList(props: {
  view: AddressesView;
  setView: (change: Partial<AddressesView>) => void;
  stamp: string;
  onChanged: () => void;
  /** Begins to write a redirect again, as it stands. */
  onRewrite: (line: string) => void;
}) {
  const { view, setView } = props;
  const { search, origin, state, age } = view;
  const status = view.status === "all" ? view.status : (Number(view.status) as SetRedirect["status"]);
  const [from, setFrom] = useState(0);
  const { answer, error, retry } = useCall(
    "redirects.list",
    { search, origin, state, status, age, from, count: PAGE },
    props.stamp,
  );
  const change = (next: Partial<AddressesView>) => {
    setFrom(0);
    setView(next);
  };
  const set = async (ids: number[], isRetired: boolean) => {
    await call(isRetired ? "redirects.retire" : "redirects.restore", { ids });
    props.onChanged();
  };
  const retire = async ({ id, from: path }: SetRedirect) => {
    await set([id], true);
    toast(`Retired: ${path}`, { duration: 10_000, action: { label: "Undo", onClick: () => void set([id], false) } });
  };
  const total = answer?.total ?? 0;
  const isNarrowed = search !== "" || origin !== "all" || state !== "holds" || status !== "all" || age !== "any";
  return (
    <section aria-label="Redirects" className="min-w-0 small:h-[80dvh] small:overflow-auto">
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
        <table className="mt-3 w-full table-fixed border-collapse bg-sheet">
          <thead>
            <tr className="border-b border-key text-left">
              <th scope="col" className="px-3 py-1.5 font-semibold">
                Old path, above where it leads
              </th>
              <th scope="col" className="w-[76px] px-2 py-1.5 font-semibold">
                Status
              </th>
              <th scope="col" className="w-[150px] px-2 py-1.5 font-semibold small:hidden">
                Made
              </th>
              <th scope="col" className="w-[96px] px-2 py-1.5">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {answer.redirects.map((own) => (
              <tr key={own.id} className="border-b border-hair align-top hover:bg-raised">
                <td className="px-3 py-1.5">
                  <Paths redirect={own} />
                </td>
                <td className="px-2 py-1.5">{own.status}</td>
                <td className="px-2 py-1.5 small:hidden">
                  <Origin redirect={own} />
                </td>
                <td className="px-2 py-1.5 text-right">
                  {own.retiredAt === null ? (
                    <>
                      <button
                        type="button"
                        className="block w-full text-right underline decoration-hair underline-offset-4 hover:decoration-key"
                        aria-label={`Change ${own.from}`}
                        onClick={() => props.onRewrite(lineOf(own))}
                      >
                        Change
                      </button>
                      <button
                        type="button"
                        className="underline decoration-hair underline-offset-4 hover:decoration-key"
                        aria-label={`Retire ${own.from}`}
                        onClick={() => void retire(own)}
                      >
                        Retire
                      </button>
                    </>
                  ) : (
                    <button
                      type="button"
                      className="underline decoration-hair underline-offset-4 hover:decoration-key"
                      aria-label={`Use ${own.from} again`}
                      onClick={() => void set([own.id], false)}
                    >
                      Use again
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {answer && total === 0 && isNarrowed && <p className="mt-6 text-soft">No redirect matches.</p>}
      {total > PAGE && (
        <p className="mt-3 flex items-center gap-3">
          <button type="button" className={PLAIN_ACTION} disabled={from === 0} onClick={() => setFrom(from - PAGE)}>
            Newer
          </button>
          <span className="text-soft">
            {count(from + 1)} to {count(Math.min(total, from + PAGE))}
          </span>
          <button
            type="button"
            className={PLAIN_ACTION}
            disabled={from + PAGE >= total}
            onClick={() => setFrom(from + PAGE)}
          >
            Older
          </button>
        </p>
      )}
    </section>
  );
}

/** A redirect as it is typed. */
function lineOf({ from, to, status, prefix }: SetRedirect): string {
  const star = prefix ? "*" : "";
  return [from + star, ...(to === "" ? [] : [to + star]), String(status)].join(" ");
}

function Paths({ redirect: { from, to, prefix, leadsTo, fault } }: { redirect: SetRedirect }) {
  const target = to === "" ? "gone for good" : prefix ? `${to}*` : to;
  const isLedOn = leadsTo !== null && leadsTo !== to && to !== "";
  return (
    <div className="break-all font-mono text-[12px] leading-[17px]">
      <span className="text-soft">{prefix ? `${from}*` : from}</span>
      <br />
      <span>{target}</span>
      {isLedOn && <span className="text-soft"> → {leadsTo === "" ? "gone for good" : leadsTo}</span>}
      {fault && <span className="block font-sans text-[12px] text-magenta">{FAULT_LABELS[fault]}</span>}
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
