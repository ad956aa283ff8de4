"use client";
import { type ReviewedText } from "../../server/review/found-changes";
import { type WorkProgress } from "../../server/workspace/watch";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRouter, useSearchParams } from "next/navigation";
import { type KeyboardEvent, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { kindWord } from "../../core/design/kinds";
import { CHANGE_GROUPS, type ChangeGroup } from "../../core/plan/groups";
import type { ReviewedChange, ReviewGroup, ReviewSummary } from "../../server/review/review";
import { ChangePair } from "../proof/change-pair";
import { ask, askStreamed, isAborted } from "../shell/api";
import { count, counted } from "../shell/format";
import { watchJobs } from "../shell/jobs";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { Trouble } from "../shell/trouble";
import { Tick } from "../shell/tick";
import { progressLine, Working } from "../shell/working";

export const GROUP_WORDS: Record<ChangeGroup, readonly [title: string, about: string]> = {
  shorter: ["Gets shorter and fits", "Too wide on the site, fits now"],
  filled: ["Empty gets filled", "Nothing was there"],
  "told-apart": ["Duplicates told apart", "Read the same as another page"],
  written: ["Written by hand", "Somebody wrote it for the page; the site does not have it yet"],
  robots: ["Indexing changes", "Another robots setting than on the site"],
  moves: ["Address moves", "A redirect is written for each"],
  reworded: ["Reworded", "Fitted before and fits now"],
  "still-wide": ["Still too wide", "Was too wide or empty, and stays too wide"],
  worse: ["Gets worse", "Loses its keyword, fitted before, or reads like another page now"],
  clash: ["Addresses clash", "Two pages would have one address; never applied"],
  "by-hand": ["Set by hand", "On the site already; never touched by a line"],
};
const NEEDS_PERSON: ReadonlySet<ChangeGroup> = new Set(["still-wide", "worse", "clash"]);
const TEXT_WORDS: Record<ReviewedText, readonly [string, string]> = {
  title: ["title", "titles"],
  description: ["description", "descriptions"],
  slug: ["slug", "slugs"],
  robots: ["robots setting", "robots settings"],
};
const PAIR_HEIGHT = 70;
const FIRST_LOOK = "Setting live beside draft for every page …";

/** The whole change before it goes out: groups at the left, old above new at the right. */
export function Review() {
  return (
    <Suspense>
      <ReviewView />
    </Suspense>
  );
}

function ReviewView() {
  const { state, refresh } = useSite();
  const router = useRouter();
  const params = useSearchParams();
  const [summary, setSummary] = useState<ReviewSummary | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [progress, setProgress] = useState<WorkProgress | null>(null);
  const [tries, setTries] = useState(0);
  const [starting, setStarting] = useState(false);
  useEffect(() => {
    const controller = new AbortController();
    setError(null);
    askStreamed<ReviewSummary, WorkProgress>(
      "/api/review",
      {},
      { method: "PUT", signal: controller.signal, onProgress: setProgress },
    )
      .then(setSummary)
      .catch((e: unknown) => !isAborted(e) && setError(e instanceof Error ? e.message : String(e)))
      .finally(() => setProgress(null));
    return () => controller.abort();
  }, [state.revision, tries]);

  const wanted = params.get("group") as ChangeGroup | null;
  const group =
    wanted && CHANGE_GROUPS.includes(wanted) && summary?.groups.some((g) => g.group === wanted)
      ? wanted
      : (summary?.groups[0]?.group ?? null);
  const choose = (next: ChangeGroup) => window.history.replaceState(null, "", `/review?group=${next}`);
  const setGroup = (of: ChangeGroup, included: boolean) =>
    ask<ReviewSummary>("/api/review", { body: { ask: "choose-group", group: of, included } })
      .then(setSummary)
      .catch((e: unknown) => toast.error(String(e instanceof Error ? e.message : e)));
  const apply = async () => {
    setStarting(true);
    try {
      const { run } = await ask<{ run: number }>("/api/runs", { method: "POST" });
      watchJobs();
      await refresh();
      router.push(`/runs/${run}`);
    } catch (e) {
      toast.error(e instanceof Error ? e.message : String(e));
      setStarting(false);
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>("button[data-group]")];
    const next =
      buttons[buttons.indexOf(document.activeElement as HTMLButtonElement) + (event.key === "ArrowDown" ? 1 : -1)];
    if (!next) return;
    event.preventDefault();
    next.focus();
    choose(next.dataset["group"] as ChangeGroup);
  };
  const held = summary?.held ?? 0;

  return (
    <div className="desk [--columns:272px_minmax(0,1fr)]">
      <BarSlot>
        <button type="button" className={BAR_ACTION} onClick={() => router.push("/bench")}>
          Back to the bench
        </button>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!summary || summary.included === 0 || starting}
          onClick={() => void apply()}
        >
          {starting
            ? "Writing the run down …"
            : summary
              ? `Apply ${counted(summary.included, "change", "changes")}`
              : "Apply"}
        </button>
      </BarSlot>
      <aside
        aria-label="Groups of changes"
        className="desk-first min-h-0 overflow-auto border-r border-hair px-4 py-4"
        onKeyDown={onKeyDown}
      >
        <h1 className="text-[20px] font-bold">Before it goes out</h1>
        {summary ? (
          <p className="mb-3 mt-1 text-soft" role="status">
            {counted(summary.included, "change", "changes")} on {counted(summary.items, "page", "pages")}
            {summary.moves > 0 ? `, ${counted(summary.moves, "address moves", "addresses move")}` : ""}.{" "}
            {held > 0 ? `${count(held)} ${held === 1 ? "is" : "are"} held back.` : "Nothing is held back."}
          </p>
        ) : error ? (
          <Trouble message={error} onRetry={() => setTries((n) => n + 1)} />
        ) : (
          <p className="my-3 text-soft" role="status">
            {progress ? progressLine(progress) : FIRST_LOOK}
          </p>
        )}
        {summary?.errors.map((e) => (
          <p key={`${e.kind} ${e.text}`} role="alert" className="mb-2 border-l-4 border-magenta pl-2 text-magenta">
            The {e.text} line for {kindWord(e.kind, 2)} has an error and changes nothing: {e.message}
          </p>
        ))}
        {summary?.groups.map((g) => (
          <GroupRow
            key={g.group}
            group={g}
            current={g.group === group}
            onChoose={() => choose(g.group)}
            onTick={(included) => void setGroup(g.group, included)}
          />
        ))}
        {summary && summary.total === 0 && (
          <p className="text-soft">The lines give every page what it has already. There is nothing to apply.</p>
        )}
      </aside>
      {summary && group ? (
        <GroupList key={group} group={group} summary={summary} setSummary={setSummary} />
      ) : (
        <div className="bg-sheet">{!summary && !error && <Working progress={progress} waiting={FIRST_LOOK} />}</div>
      )}
    </div>
  );
}

function GroupRow({
  group,
  current,
  onChoose,
  onTick,
}: {
  group: ReviewGroup;
  current: boolean;
  onChoose: () => void;
  onTick: (included: boolean) => void;
}) {
  const [title, about] = GROUP_WORDS[group.group];
  const magenta = NEEDS_PERSON.has(group.group);
  const parts = (Object.entries(group.byText) as [ReviewedText, number][])
    .filter(([, n]) => n > 0)
    .map(([text, n]) => `${count(n)} ${TEXT_WORDS[text][n === 1 ? 0 : 1]}`);
  return (
    <div className={`flex gap-3 border-t border-hair py-2 pl-1 pr-1 ${current ? "bg-sheet" : ""}`}>
      <Tick
        checked={group.included === group.count ? true : group.included === 0 ? false : "mixed"}
        disabled={group.fixed}
        label={`Take in: ${title}`}
        onChange={onTick}
      />
      <button
        type="button"
        data-group={group.group}
        aria-current={current}
        onClick={onChoose}
        className="min-w-0 flex-1 text-left"
      >
        <span
          className={`flex justify-between gap-2 ${current ? "font-bold" : "font-semibold"} ${magenta ? "text-magenta" : ""}`}
        >
          {title}
          <span className="font-normal">
            {group.included > 0 && group.included < group.count
              ? `${count(group.included)} of ${count(group.count)}`
              : count(group.count)}
          </span>
        </span>
        <span className="narrow block text-[12px] leading-snug text-soft">{about}</span>
        <span className="narrow block text-[12px] leading-snug text-faint">{parts.join(", ")}</span>
      </button>
    </div>
  );
}

const WINDOW = 60;

function GroupList({
  group,
  summary,
  setSummary,
}: {
  group: ChangeGroup;
  summary: ReviewSummary;
  setSummary: (summary: ReviewSummary) => void;
}) {
  const { state } = useSite();
  const site = state.site!;
  const [rows, setRows] = useState<ReadonlyMap<number, ReviewedChange>>(new Map());
  const own = summary.groups.find((g) => g.group === group)!;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: own.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => PAIR_HEIGHT,
    overscan: 6,
  });
  const shown = virtual.getVirtualItems();
  const first = shown[0]?.index ?? 0;
  const last = shown.at(-1)?.index ?? 0;
  const stamp = useMemo(() => `${own.count} ${own.included}`, [own.count, own.included]);
  const fetched = useRef(new Map<number, string>());
  useEffect(() => {
    for (let page = Math.floor(first / WINDOW); page <= Math.floor(last / WINDOW); page++) {
      if (fetched.current.get(page) === stamp) continue;
      fetched.current.set(page, stamp);
      ask<{ changes: ReviewedChange[] }>("/api/review", {
        body: { ask: "list", group, from: page * WINDOW, count: WINDOW },
      })
        .then(({ changes }) =>
          setRows((old) => {
            const next = new Map(old);
            changes.forEach((change, i) => next.set(page * WINDOW + i, change));
            return next;
          }),
        )
        .catch(() => fetched.current.delete(page));
    }
  }, [first, last, group, stamp]);
  const tick = (change: ReviewedChange, index: number, included: boolean) => {
    setRows((old) => new Map(old).set(index, { ...change, included }));
    ask<ReviewSummary>("/api/review", { body: { ask: "choose-change", id: change.id, text: change.text, included } })
      .then(setSummary)
      .catch((e: unknown) => toast.error(String(e instanceof Error ? e.message : e)));
  };
  const [title] = GROUP_WORDS[group];
  return (
    <section aria-label={title} className="desk-list relative flex min-h-0 min-w-0 flex-col bg-sheet">
      <div className="flex shrink-0 items-baseline gap-3 border-b border-key bg-raised px-5 py-2.5">
        <h2 className="font-bold">{title}</h2>
        <span className="text-soft">{counted(own.count, "change", "changes")}</span>
        <span className="ml-auto text-soft">Every one can be taken back</span>
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto"
        tabIndex={0}
        role="list"
        aria-label={`${title}: changes`}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }} role="presentation">
          {shown.map((item) => {
            const change = rows.get(item.index);
            return (
              <div
                key={item.index}
                role="listitem"
                aria-setsize={own.count}
                aria-posinset={item.index + 1}
                className={`absolute left-0 top-0 w-full border-b border-hair ${change && !change.included ? "bg-raised" : ""}`}
                style={{ height: PAIR_HEIGHT, transform: `translateY(${item.start}px)` }}
              >
                {change && (
                  <>
                    <div className="absolute left-5 top-3 z-10">
                      <Tick
                        checked={change.included}
                        disabled={own.fixed}
                        label={`Take in: ${change.text} of ${change.name}`}
                        onChange={(included) => tick(change, item.index, included)}
                      />
                    </div>
                    <ChangePair change={change} site={site} />
                  </>
                )}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}
