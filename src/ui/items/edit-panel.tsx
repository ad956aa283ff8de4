"use client";
import { useEffect, useMemo, useState } from "react";
import { isPageExtra, PAGE_EXTRA_NAMES, TEXTS } from "../../core/design/kinds";
import { ROBOTS } from "../../core/design/robots";
import { wordChanges } from "../../core/proof/word-changes";
import type { EditedField } from "../../core/edits/hand-text";
import type { EditAction } from "../../server/edits/plan-edit";
import { isAborted } from "../shell/api";
import { MarkedText } from "../proof/marked-text";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { type Choice, type PlannedEdit, planEdit } from "../shell/edits";
import { useSite } from "../shell/site-context";
import { pastedValues } from "./pasted";

type Way = "set" | "replace" | "paste" | "let-go";
type Field = Exclude<EditedField, "alt">;

const WAYS: readonly [Way, string][] = [
  ["set", "Set"],
  ["replace", "Find and replace"],
  ["paste", "Paste a column"],
  ["let-go", "By hand or not"],
];
const FIELD_LABELS: Record<Field, string> = {
  title: "Title",
  description: "Description",
  slug: "Slug",
  keyword: "Focus keyword",
  robots: "Robots",
  keywords: "Meta keywords",
  canonical: "Canonical",
};
const FIELDS_FOR: Record<Way, readonly Field[]> = {
  set: ["keyword", "robots", ...TEXTS, ...PAGE_EXTRA_NAMES],
  replace: [...TEXTS, "keyword"],
  paste: [...TEXTS, "keyword", "robots", ...PAGE_EXTRA_NAMES],
  "let-go": [...TEXTS, "robots", ...PAGE_EXTRA_NAMES],
};
const INPUT = "block w-full rounded-sm border border-edge bg-sheet px-2 py-1";

/** What an edit begins with: how, of what, and what was pasted already. */
export interface EditStart {
  readonly way: Way;
  readonly field: Field;
  readonly pasted: string;
}

/** Something done to all chosen pages at once, with how it reads before it is done. */
export function EditPanel({
  choice,
  number,
  start,
  onMake,
  onClose,
}: {
  choice: Choice;
  number: number;
  start: EditStart;
  onMake: (action: EditAction) => Promise<boolean>;
  onClose: () => void;
}) {
  const [way, setWay] = useState<Way>(start.way);
  const [chosenField, setField] = useState<Field>(start.field);
  const { state } = useSite();
  // Extra texts are offered where the site has switched them on.
  const fields = FIELDS_FOR[way].filter((one) => !isPageExtra(one) || state.site?.extras[one]);
  const field = fields.includes(chosenField) ? chosenField : fields[0]!;
  const [value, setValue] = useState(start.way === "set" ? start.pasted : "");
  const [clears, setClears] = useState(false);
  // Nothing is done that nobody asked for: a setting, and what becomes of texts by hand, are chosen.
  const [robots, setRobots] = useState("");
  const [find, setFind] = useState({ find: "", replace: "", matchCase: false, wholeWords: false, pattern: false });
  const [pasted, setPasted] = useState(start.pasted);
  const [hold, setHold] = useState<boolean | null>(null);
  const [busy, setBusy] = useState(false);
  const action = useMemo((): EditAction | null => {
    switch (way) {
      case "set":
        if (field === "robots") return robots === "" ? null : { type: "set", field, value: robots };
        if (field === "keyword" && clears) return { type: "set", field, value: "" };
        return value.trim() === "" ? null : { type: "set", field, value };
      case "replace":
        return find.find === "" ? null : { type: "replace", field: field as "title", ...find };
      case "paste":
        return pasted.trim() === "" ? null : { type: "paste", field, values: pastedValues(pasted) };
      case "let-go":
        if (hold === null || (hold && isNeverHeld(field))) return null;
        return hold && !isNeverHeld(field)
          ? { type: "hold", field: field as "title" }
          : { type: "let-go", field: field as "title" };
    }
  }, [way, field, value, clears, robots, find, pasted, hold]);
  const { plan, error } = usePlan(choice, action);
  const check = (key: "matchCase" | "wholeWords" | "pattern", label: string) => (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        checked={find[key]}
        onChange={(event) => setFind({ ...find, [key]: event.target.checked })}
      />{" "}
      {label}
    </label>
  );
  return (
    <aside
      aria-label="Edit the selected pages"
      className="desk-side flex min-h-0 flex-col border-l border-key bg-sheet"
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4 pt-3">
        <button
          type="button"
          onClick={onClose}
          className="float-right text-soft underline decoration-hair underline-offset-4 hover:text-key"
        >
          Close
        </button>
        <h2 className="text-[15px] font-bold">Edit {counted(number, "page", "pages")}</h2>
        <div
          role="radiogroup"
          aria-label="Action"
          className="mt-2 flex flex-wrap gap-x-4 gap-y-1 border-b border-hair pb-2"
        >
          {WAYS.map(([one, label]) => (
            <button
              key={one}
              type="button"
              role="radio"
              aria-checked={way === one}
              onClick={() => setWay(one)}
              className={
                way === one
                  ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                  : "text-soft hover:text-key"
              }
            >
              {label}
            </button>
          ))}
        </div>
        <label className="mt-3 block">
          <span className="text-[12px] text-soft">Text</span>
          <select value={field} onChange={(event) => setField(event.target.value as Field)} className={INPUT}>
            {fields.map((one) => (
              <option key={one} value={one}>
                {FIELD_LABELS[one]}
              </option>
            ))}
          </select>
        </label>
        {way === "set" && field === "robots" && (
          <label className="mt-2 block">
            <span className="text-[12px] text-soft">Setting</span>
            <select value={robots} onChange={(event) => setRobots(event.target.value)} className={INPUT}>
              <option value="" disabled>
                Choose one
              </option>
              {ROBOTS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
        )}
        {way === "set" && field !== "robots" && (
          <label className="mt-2 block">
            <span className="text-[12px] text-soft">
              {field === "keyword" ? "Keyword for all of them" : "Text for all of them"}
            </span>
            <input
              autoFocus
              value={value}
              disabled={field === "keyword" && clears}
              onChange={(event) => setValue(event.target.value)}
              className={`${INPUT} disabled:bg-raised disabled:text-faint`}
            />
          </label>
        )}
        {way === "set" && field === "keyword" && (
          <label className="mt-1.5 flex items-center gap-1.5">
            <input type="checkbox" checked={clears} onChange={(event) => setClears(event.target.checked)} /> Clear it:
            the pages will have none
          </label>
        )}
        {way === "replace" && (
          <>
            <label className="mt-2 block">
              <span className="text-[12px] text-soft">Find</span>
              <input
                autoFocus
                value={find.find}
                onChange={(event) => setFind({ ...find, find: event.target.value })}
                className={`${INPUT} ${find.pattern ? "font-mono" : ""}`}
              />
            </label>
            <label className="mt-2 block">
              <span className="text-[12px] text-soft">Replace with</span>
              <input
                value={find.replace}
                onChange={(event) => setFind({ ...find, replace: event.target.value })}
                className={`${INPUT} ${find.pattern ? "font-mono" : ""}`}
              />
            </label>
            <div className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
              {check("matchCase", "Match case")}
              {check("wholeWords", "Whole words")}
              {check("pattern", "Pattern (RE2)")}
            </div>
            <p className="mt-1 text-[12px] text-soft">
              Searches the drafted texts; a changed text becomes one written by hand.
            </p>
          </>
        )}
        {way === "paste" && (
          <label className="mt-2 block">
            <span className="text-[12px] text-soft">
              One line per page, in list order; an empty line leaves its page unchanged
            </span>
            <textarea
              autoFocus
              rows={7}
              value={pasted}
              onChange={(event) => setPasted(event.target.value)}
              className={`${INPUT} font-mono text-[12.5px]`}
            />
          </label>
        )}
        {way === "let-go" && (
          <div className="mt-2 space-y-1">
            {(
              [
                [false, "Remove the hand-written text; lines apply again"],
                [true, "Keep the drafted text, as written by hand"],
              ] as const
            ).map(([which, label]) => (
              <label key={label} className="flex items-baseline gap-1.5">
                <input
                  type="radio"
                  name="hand"
                  checked={hold === which}
                  disabled={which && isNeverHeld(field)}
                  onChange={() => setHold(which)}
                />{" "}
                {label}
              </label>
            ))}
          </div>
        )}
        {error && (
          <p role="alert" className="mt-3 text-magenta">
            {error}
          </p>
        )}
        {plan && <Plan plan={plan} />}
      </div>
      <div className="flex items-center gap-3 border-t border-hair px-4 py-3">
        <button
          type="button"
          className={`${PLAIN_ACTION} shrink-0 whitespace-nowrap`}
          disabled={!action || !plan || plan.count === 0 || busy}
          onClick={() => {
            setBusy(true);
            void onMake(action!).then((done) => {
              setBusy(false);
              if (done) onClose();
            });
          }}
        >
          {plan ? `Change ${counted(plan.count, "page", "pages")}` : "Change"}
        </button>
        <span className="narrow text-[12px] text-soft">One step; Ctrl Z undoes it. It goes live through Review.</span>
      </div>
    </aside>
  );
}

/** Whether what the drafts make of it cannot be held as a text by hand. */
function isNeverHeld(field: Field): boolean {
  return field === "robots" || isPageExtra(field);
}

function Plan({ plan }: { plan: PlannedEdit }) {
  return (
    <section aria-label="Preview" className="mt-3 border-t border-key pt-2">
      <p role="status" className="text-soft">
        <b className="text-key">{count(plan.count)}</b> {plan.count === 1 ? "changes" : "change"},{" "}
        {count(plan.unchanged)} {plan.unchanged === 1 ? "stays" : "stay"} as{" "}
        {plan.unchanged === 1 ? "it is" : "they are"}
      </p>
      {plan.refused.map(({ reason, count: pages, example }) => (
        <p key={reason} className="mt-1 text-magenta">
          {counted(pages, "page is", "pages are")} left out, “{example}” among them: {reason}
        </p>
      ))}
      <ul className="mt-1">
        {plan.samples.map(({ id, name, before, after }) => {
          const changes = wordChanges(before, after);
          return (
            <li key={id} className="border-b border-hair py-1.5">
              <p className="narrow truncate text-[12px] text-soft">{name}</p>
              <p className="break-words text-faint">
                {before === "" ? "nothing" : <MarkedText stretches={changes.before} as="goes" />}
              </p>
              <p className="break-words">
                {after === "" ? (
                  <span className="text-soft">back to the line</span>
                ) : (
                  <MarkedText stretches={changes.after} as="comes" />
                )}
              </p>
            </li>
          );
        })}
      </ul>
      {plan.count > plan.samples.length && (
        <p className="py-1 text-soft">and {counted(plan.count - plan.samples.length, "more", "more")}</p>
      )}
    </section>
  );
}

/** What an action would do, worked out a moment after it was last changed. */
function usePlan(choice: Choice, action: EditAction | null): { plan: PlannedEdit | null; error: string | null } {
  const [known, setKnown] = useState<{ plan: PlannedEdit | null; error: string | null }>({ plan: null, error: null });
  const asked = JSON.stringify([choice, action]);
  useEffect(() => {
    const controller = new AbortController();
    const [own, wanted] = JSON.parse(asked) as [Choice, EditAction | null];
    if (!wanted) {
      setKnown({ plan: null, error: null });
      return;
    }
    const timer = setTimeout(() => {
      planEdit(own, wanted, controller.signal)
        .then((plan) => setKnown({ plan, error: null }))
        .catch(
          (error: unknown) =>
            !isAborted(error) &&
            setKnown({ plan: null, error: error instanceof Error ? error.message : String(error) }),
        );
    }, 180);
    return () => {
      clearTimeout(timer);
      controller.abort();
    };
  }, [asked]);
  return known;
}
