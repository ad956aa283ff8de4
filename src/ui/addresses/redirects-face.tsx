"use client";
import { useState } from "react";
import type { RedirectFigures } from "../../server/redirects/redirect-set";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { FileLink } from "../shell/link";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";
import { Trouble } from "../shell/trouble";
import { AddRedirects } from "./add-redirects";
import { useAddressesView } from "./addresses-url";
import { RedirectList } from "./redirect-list";
import { WayOfPath } from "./way-of-path";

const FAULT_WORDS = {
  loop: ["leads in a circle", "lead in a circle"],
  "dead end": ["leads to no page", "lead to no page"],
  collision: ["is where a page is", "are where pages are"],
  double: ["has two targets", "have two targets"],
} as const;

const FORMS = [
  ["csv", "CSV"],
  ["jsonl", "JSON Lines"],
  ["nginx", "nginx"],
  ["apache", "Apache httpd"],
  ["plain", "plain text"],
] as const;

/** All redirects of the site: what holds, where a path leads, what is put in by hand and by file, and how it is taken out. */
export function RedirectsFace() {
  const { state, refresh } = useSite();
  const [view, setView] = useAddressesView();
  const stamp = `${pagesStamp(state)} ${state.redirects}`;
  const figures = useCall("redirects.figures", {}, stamp);
  const changed = () => void refresh();
  const [begun, setBegun] = useState({ line: "", times: 0 });
  return (
    <div className="flex min-h-0 flex-1 flex-col px-6 pt-4 small:flex-none small:px-3">
      <p className="min-h-[20px] text-soft small:min-h-[40px]" role="status">
        {figures.answer && (
          <Told figures={figures.answer} onFaulty={() => setView({ state: "faulty", origin: "all" })} />
        )}
      </p>
      {figures.error && <Trouble message={figures.error} onRetry={figures.retry} />}
      <div className="mt-3 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_340px] grid-rows-[minmax(0,1fr)] gap-6 small:flex-none small:grid-cols-1 small:grid-rows-none">
        <RedirectList
          view={view}
          setView={setView}
          stamp={stamp}
          onChanged={changed}
          onRewrite={(line) => setBegun(({ times }) => ({ line, times: times + 1 }))}
        />
        <div className="space-y-6 overflow-auto pb-4 pl-1 small:contents">
          <div className="small:order-first">
            <WayOfPath path={view.path} onPath={(path) => setView({ path })} stamp={stamp} />
          </div>
          <AddRedirects key={begun.times} begun={begun.line} onAdded={changed} />
          <Export figures={figures.answer} />
        </div>
      </div>
    </div>
  );
}

function Told({ figures, onFaulty }: { figures: RedirectFigures; onFaulty: () => void }) {
  const { holding, rules, proven, faults } = figures;
  if (holding === 0 && faults.length === 0)
    return "No redirects yet. Pages that move in a run get theirs; others are added here.";
  return (
    <>
      {counted(holding, "redirect", "redirects")}
      {rules < holding && <> in {counted(rules, "rule", "rules")}</>}, {counted(proven, "known path", "known paths")}{" "}
      checked
      {faults.map(({ what, count: many }) => (
        <span key={what}>
          {" · "}
          <button
            type="button"
            className={`underline decoration-hair underline-offset-4 hover:decoration-key ${what === "double" ? "" : "text-magenta"}`}
            onClick={onFaulty}
          >
            {count(many)} {FAULT_WORDS[what][many === 1 ? 0 : 1]}
          </button>
        </span>
      ))}
    </>
  );
}

function Export({ figures }: { figures: RedirectFigures | null }) {
  const [compact, setCompact] = useState(true);
  const isSmaller = figures !== null && figures.rules < figures.holding;
  return (
    <section aria-label="Export the redirects">
      <h2 className="font-bold">Export</h2>
      <label className="mt-1 flex items-baseline gap-2 text-[12.5px]">
        <input type="checkbox" checked={compact} onChange={(event) => setCompact(event.target.checked)} />
        <span>
          In as few rules as possible
          {isSmaller && (
            <span className="text-soft">
              : {count(figures.rules)} in place of {count(figures.holding)}
            </span>
          )}
        </span>
      </label>
      <p className="mt-2 flex flex-wrap gap-2">
        {FORMS.map(([form, label]) => (
          <FileLink
            key={form}
            className={PLAIN_ACTION}
            href={`/api/out/redirect-set?form=${form}${compact ? "&compact=1" : ""}`}
            aria-label={`Redirects as ${label}`}
          >
            {label}
          </FileLink>
        ))}
      </p>
    </section>
  );
}
