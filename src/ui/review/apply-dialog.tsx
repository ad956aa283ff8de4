"use client";
import { useRouter } from "../shell/site-path";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import { ALL_CHANGES } from "../../core/plan/review-filter";
import type { ReviewSummary } from "../../server/review/review-summary";
import { useCall } from "../shell/queries";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { ApiError, call, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import { watchJobs } from "../shell/jobs";
import { useSite } from "../shell/site-context";
import { sayOvertaken } from "./overtaken";
import { GROUP_WORDS, textCounts } from "./review-words";

const OTHER_BY_NOW =
  "Something was changed in another window since you opened this review. Nothing was applied; check it again.";

/** What goes out, once more in figures, and what the run is called; from here it is applied. */
export function ApplyDialog({
  reviewed,
  stamp,
  onClose,
  onStale,
}: {
  /** The review that was looked at: nothing else goes out. */
  reviewed: ReviewSummary;
  /** What its figures rest on. */
  stamp: string;
  onClose: () => void;
  /** Something else would go out by now. */
  onStale: () => void;
}) {
  const { refresh, state } = useSite();
  const { connection } = state;
  const overWire = connection?.writes ?? false;
  // All that goes out, whatever the screen shows of it.
  const { answer: summary, isCurrent } = useCall("review.summary", { filter: ALL_CHANGES }, stamp);
  const router = useRouter();
  const [starting, setStarting] = useState(false);
  const [name, setName] = useState("");
  /** As the field has it: local time, without a zone; `""` for now. */
  const [at, setAt] = useState("");
  const dueAt = at === "" ? null : new Date(at).toISOString();
  // One for this dialog, however often its button is pressed.
  const click = useRef(crypto.randomUUID());
  // What was looked at when it was opened: behind it the review may be another one by now.
  const [goingOut] = useState(reviewed.goingOut);
  const isOther = reviewed.goingOut !== goingOut || (isCurrent && summary !== null && summary.goingOut !== goingOut);
  useEffect(() => {
    if (!isOther || starting) return;
    sayOvertaken(OTHER_BY_NOW);
    onStale();
  }, [isOther, starting, onStale]);
  // What was started is on its way: its figures stay until the run is shown.
  if (!summary || (!starting && (!isCurrent || isOther))) return null;
  const apply = async () => {
    setStarting(true);
    try {
      const { run } = await call("runs.start", {
        goingOut,
        name,
        click: click.current,
        overWire,
        dueAt,
      });
      watchJobs();
      // It is begun, whatever becomes of looking at it.
      await refresh().catch(() => {});
      router.push(`/runs/${run}`);
    } catch (error) {
      setStarting(false);
      if (error instanceof ApiError && error.code === "stale") {
        sayOvertaken(error.message);
        onStale();
      } else toast.error(wordsOf(error));
    }
  };
  const going = summary.groups.filter((group) => group.included > 0);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && !starting && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-16 z-50 max-h-[calc(100vh-5rem)] w-[520px] max-w-[calc(100vw-1.5rem)] -translate-x-1/2 overflow-auto rounded-sm border border-key bg-sheet p-5 shadow-[6px_6px_0_rgb(20_33_42/0.25)]"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (!starting) void apply();
            }}
          >
            <Dialog.Title className="text-[18px] font-bold">
              {counted(summary.included, "change", "changes")} on {counted(summary.items, "page", "pages")}
            </Dialog.Title>
            <table className="mt-3 w-full">
              <tbody>
                {going.map((group) => (
                  <tr key={group.group} className="border-t border-hair align-top">
                    <th scope="row" className="py-1 pr-3 text-left font-normal">
                      {GROUP_WORDS[group.group].title}
                      <span className="narrow block text-[12px] text-soft">
                        {textCounts(group.includedByText).join(", ")}
                      </span>
                    </th>
                    <td className="py-1 text-right">{count(group.included)}</td>
                  </tr>
                ))}
                {summary.followsLinks && summary.links !== null && summary.links.count > 0 && (
                  <tr className="border-t border-hair align-top">
                    <th scope="row" className="py-1 pr-3 text-left font-normal">
                      Links that follow the moves
                      <span className="narrow block text-[12px] text-soft">
                        on {counted(summary.links.pages, "page", "pages")}
                      </span>
                    </th>
                    <td className="py-1 text-right">{count(summary.links.count)}</td>
                  </tr>
                )}
              </tbody>
            </table>
            <p className="mt-3">
              {summary.moves === 0
                ? "No address moves."
                : `${counted(summary.moves, "address moves", "addresses move")}, those of pages below a moved one included; each gets a redirect from the old one.`}{" "}
              {summary.held > 0
                ? `${counted(summary.held, "change is", "changes are")} held back and will not be applied.`
                : "Nothing is held back."}
            </p>
            <p className={overWire ? "mt-2 font-semibold" : "mt-2 text-soft"}>
              {overWire
                ? `They go to the live site over “${connection!.name}” (${connection!.base}); a change counts as applied when the site has confirmed it.`
                : "They are applied here; the run’s files carry them to the site."}
            </p>
            <label className="mt-4 block">
              <span className="text-[12px] text-soft">Name or note for this run</span>
              <input
                value={name}
                maxLength={200}
                autoFocus
                placeholder="such as: shorter titles before the season"
                onChange={(event) => setName(event.target.value)}
                className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
              />
            </label>
            <label className="mt-3 block">
              <span className="text-[12px] text-soft">Apply later, at a set time (leave empty for now)</span>
              <input
                type="datetime-local"
                value={at}
                onChange={(event) => setAt(event.target.value)}
                className="block rounded-sm border border-edge bg-sheet px-2 py-1"
              />
            </label>
            <div className="mt-4 flex justify-end gap-2">
              <button type="button" className={PLAIN_ACTION} disabled={starting} onClick={onClose}>
                Back to the review
              </button>
              <button type="submit" className={MAIN_ACTION} disabled={starting}>
                {starting
                  ? "Preparing the run …"
                  : `${dueAt === null ? "Apply" : "Schedule"} ${counted(summary.included, "change", "changes")}`}
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
