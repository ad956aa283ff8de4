"use client";
import { anyText, maybeOneOf, oneOf, typedText, urlCodec } from "../shell/url-codec";
import { useUrlView } from "../shell/url-view";
import { kindOf, type WithKinds } from "../../core/design/kinds";
import {
  REVIEW_ORDERS,
  REVIEWED_TEXTS,
  type ReviewedText,
  type ReviewFilter,
  type ReviewOrder,
} from "../../core/plan/review-filter";
import { useRouter } from "../shell/site-path";
import { type KeyboardEvent, useCallback, useMemo, useState } from "react";
import { CHANGE_GROUPS, type ChangeGroup } from "../../core/plan/groups";
import type { ReviewGroup, ReviewSummary } from "../../server/review/review-summary";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import { call } from "../shell/api";
import { count, counted } from "../shell/format";
import { useCall } from "../shell/queries";
import { Later, useLater } from "../shell/later";
import { BarSlot } from "../shell/shell";
import { useSite, useKindWord } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";
import { Tick } from "../shell/tick";
import { useReturning } from "../shell/use-returning";
import { Trouble } from "../shell/trouble";
import { progressLine } from "../shell/progress-words";
import { Working } from "../shell/working";
import { FilterBar } from "./filter-bar";
import { GroupList } from "./group-list";
import { MovesAlong } from "./moves-along";
import { forgetOvertaken, useForgetting } from "./overtaken";
import { useTicks } from "./use-ticks";
import { GROUP_WORDS, textCounts } from "./review-words";

const DIALOG = new Later(() => import("./apply-dialog"));

/** Who has no connection now is told so where something is wanted. */
const ignored = () => {};

const FIRST_LOOK = "Comparing live and draft for every page …";

const VIEW = urlCodec<{
  group: ChangeGroup | null;
  kind: string;
  text: ReviewedText | null;
  words: string;
  order: ReviewOrder;
  rule: string;
  category: string;
  finding: string;
}>({
  group: maybeOneOf(CHANGE_GROUPS),
  kind: anyText(),
  text: maybeOneOf(REVIEWED_TEXTS),
  words: typedText(),
  order: oneOf(REVIEW_ORDERS, "site"),
  rule: anyText(),
  category: anyText(),
  finding: anyText(),
});

/** The whole change before it goes out: groups at the left, old above new at the right. */
export function Review() {
  const kindWord = useKindWord();
  const { state } = useSite();
  const router = useRouter();
  const [view, put] = useUrlView("/review", VIEW);
  const { kind, text, words, rule, category, finding } = view;
  const filter = useMemo(
    () => filterOf({ kind, text, words, rule, category, finding }, state.site),
    [kind, text, words, rule, category, finding, state.site],
  );
  const { summary, isCurrent, error, progress, retry, setSummary, look, stamp } = useReview(filter);
  const [applying, setApplying] = useState(false);
  const dialog = useLater(DIALOG, applying);
  useForgetting();
  const lookAgain = useCallback(() => {
    setApplying(false);
    look();
  }, [look]);
  const { say, settled } = useTicks(setSummary);
  // What was ticked just now goes out, or stays, with the rest.
  const [isOpening, setOpening] = useState(false);
  const open = async () => {
    setOpening(true);
    await settled();
    setOpening(false);
    forgetOvertaken();
    setApplying(true);
  };
  const wanted = view.group;
  const isThere = (group: ChangeGroup) => summary?.groups.some((g) => g.group === group) ?? false;
  const group = wanted && isThere(wanted) ? wanted : (summary?.groups[0]?.group ?? null);
  const choose = (next: ChangeGroup) => put({ group: next });
  return (
    <div className="desk [--columns:272px_minmax(0,1fr)]">
      <BarSlot>
        <button type="button" className={BAR_ACTION} onClick={() => router.push("/bench")}>
          Back to the bench
        </button>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!summary || !isCurrent || isOpening || summary.included === 0}
          onClick={() => void open()}
        >
          {summary ? `Apply ${counted(summary.included, "change", "changes")} …` : "Apply …"}
        </button>
      </BarSlot>
      <aside
        aria-label="Groups of changes"
        className="desk-first desk-steady min-h-0 overflow-auto border-r border-hair px-4 py-4"
        onKeyDown={(event) => stepThrough(event, choose)}
      >
        <h1 className="text-[20px] font-bold">Review before applying</h1>
        {error && <Trouble message={error} onRetry={retry} />}
        {!error && (
          <Standing
            summary={summary}
            isCurrent={isCurrent && !isOpening}
            words={isOpening ? "Waiting for what was ticked …" : progress && progressLine(state.site, progress)}
          />
        )}
        {summary && summary.total > 0 && (
          <FilterBar
            filter={filter}
            summary={summary}
            stamp={summary.stamp}
            onFilter={(change) => put(viewOf(change))}
            onForget={() => void say(() => call("review.forgetChoices", { filter }))}
            onRestore={() => void say(() => call("review.restoreChoices", { filter }))}
            onChoose={(included, only) => void say(() => call("review.chooseShown", { filter, included, only }))}
          />
        )}
        {summary?.errors.map((e) => (
          <p
            key={`${e.kind} ${e.text} ${e.message}`}
            role="alert"
            className="mb-2 border-l-4 border-magenta pl-2 text-magenta"
          >
            The {e.text} line for {kindWord(e.kind, 2)} has an error and changes nothing: {e.message}
          </p>
        ))}
        {summary && (
          <MovesAlong
            summary={summary}
            stamp={`${summary.goingOut} ${stamp}`}
            onAgain={look}
            onFollow={(follows) => void say(() => call("review.followLinks", { follows, filter }))}
          />
        )}
        {summary?.groups.map((g) => (
          <GroupRow
            key={g.group}
            group={g}
            current={g.group === group}
            onChoose={() => choose(g.group)}
            onTick={(included) => void say(() => call("review.chooseGroup", { group: g.group, filter, included }))}
          />
        ))}
        {summary && summary.total > 0 && summary.groups.length === 0 && (
          <p className="text-soft">No change matches these filters.</p>
        )}
        {summary && summary.total === 0 && (
          <p className="text-soft">Every page already has what its lines make. There is nothing to apply.</p>
        )}
      </aside>
      {summary && group ? (
        <GroupList
          key={`${group} ${view.order}`}
          group={group}
          order={view.order}
          onOrder={(order) => put({ order })}
          filter={filter}
          summary={summary}
          stamp={stamp}
          onSay={say}
          onStale={look}
        />
      ) : (
        <div className="bg-sheet">{!summary && !error && <Working progress={progress} waiting={FIRST_LOOK} />}</div>
      )}
      {applying && summary && dialog && (
        <dialog.ApplyDialog reviewed={summary} stamp={stamp} onClose={() => setApplying(false)} onStale={lookAgain} />
      )}
    </div>
  );
}

/** What the address bar says; a kind that the site has not filters nothing. */
function filterOf(
  { kind, text, words, rule, category, finding }: Omit<ReturnType<typeof VIEW.read>, "group" | "order">,
  site: WithKinds,
): ReviewFilter {
  return {
    kind: kindOf(site, kind)?.id ?? null,
    text,
    words,
    rule: rule || null,
    category: category || null,
    finding: finding || null,
  };
}

/** A change of the filter as the address bar has it. */
function viewOf({ text, words, ...named }: Partial<ReviewFilter>): Partial<ReturnType<typeof VIEW.read>> {
  return {
    ...(text !== undefined && { text }),
    ...(words !== undefined && { words }),
    ...Object.fromEntries(Object.entries(named).map(([name, value]) => [name, value ?? ""])),
  };
}

/**
 * The review of the site as it stands: asked for again when drafts, settings or pages are others, when another filter is set,
 * and whenever the screen is opened. What a tick gives stands in its place as long as all of these are the same. Until all
 * drafts of this window are stored it is not current.
 */
function useReview(filter: ReviewFilter) {
  const { state, refresh, savers } = useSite();
  const [opened] = useState(() => crypto.randomUUID());
  const [looks, setLooks] = useState(0);
  const [ticked, setTicked] = useState<{ of: string; number: number; summary: ReviewSummary } | null>(null);
  const base = `${siteStamp(state)} ${opened} ${looks}`;
  const of = `${base} ${JSON.stringify(filter)}`;
  const isTicked = ticked?.of === of;
  // What was answered before a tick is not what the server would answer now.
  const stamp = `${base} ${ticked?.number ?? 0}`;
  const asked = useCall("review.summary", isTicked ? null : { filter }, stamp);
  const summary = isTicked ? ticked.summary : asked.answer;
  // Another filter changes nothing of what goes out.
  const [known, setKnown] = useState("");
  if (asked.isCurrent && known !== stamp) setKnown(stamp);
  const isStored = savers.all().every((saver) => saver.current().state === "stored");
  const shown = summary?.goingOut;
  const look = useCallback(() => {
    void refresh().then(() => setLooks((n) => n + 1));
  }, [refresh]);
  // What another window ticked meanwhile is looked at whenever one comes back to this one.
  const compare = useCallback(() => {
    if (shown) void call("review.summary", { filter }).then((now) => now.goingOut !== shown && look(), ignored);
  }, [shown, filter, look]);
  useReturning(compare);
  const setSummary = useCallback(
    (next: ReviewSummary) => {
      setTicked((before) => ({ of, number: (before?.number ?? 0) + 1, summary: next }));
      if (next.stamp !== summary?.stamp) look();
    },
    [of, summary?.stamp, look],
  );
  const { error, progress, retry } = asked;
  const isCurrent = (isTicked || asked.isCurrent || known === stamp) && isStored;
  return { summary, stamp, isCurrent, error: isTicked ? null : error, progress, retry, setSummary, look };
}

function Standing({
  summary,
  isCurrent,
  words,
}: {
  summary: ReviewSummary | null;
  isCurrent: boolean;
  words: string | null;
}) {
  if (!summary || !isCurrent)
    return (
      <p className="my-3 text-soft" role="status">
        {words ?? (summary ? "Drafts, settings or pages changed: updating …" : FIRST_LOOK)}
      </p>
    );
  const { included, items, moves, held } = summary;
  return (
    <p className="mb-3 mt-1 text-soft" role="status">
      {counted(included, "change", "changes")} on {counted(items, "page", "pages")}
      {moves > 0 ? `, ${counted(moves, "address moves", "addresses move")}` : ""}.{" "}
      {held > 0 ? `${count(held)} ${held === 1 ? "is" : "are"} held back.` : "Nothing is held back."}
    </p>
  );
}

/** Up and down go from group to group. */
function stepThrough(event: KeyboardEvent, choose: (group: ChangeGroup) => void): void {
  if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
  const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>("button[data-group]")];
  const now = buttons.indexOf(document.activeElement as HTMLButtonElement);
  const next = buttons[now + (event.key === "ArrowDown" ? 1 : -1)];
  if (!next) return;
  event.preventDefault();
  next.focus();
  choose(next.dataset["group"] as ChangeGroup);
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
  const { title, about, needsPerson } = GROUP_WORDS[group.group];
  const state = group.included === group.count ? true : group.included === 0 ? false : "mixed";
  return (
    <div className={`flex gap-3 border-t border-hair py-2 pl-1 pr-1 ${current ? "bg-sheet" : ""}`}>
      <Tick checked={state} disabled={group.fixed} label={`Include: ${title}`} onChange={onTick} />
      <button
        type="button"
        data-group={group.group}
        aria-current={current}
        onClick={onChoose}
        className="min-w-0 flex-1 text-left"
      >
        <span
          className={`flex justify-between gap-2 ${current ? "font-bold" : "font-semibold"} ${needsPerson ? "text-magenta" : ""}`}
        >
          {title}
          <span className="font-normal">
            {state === "mixed" ? `${count(group.included)} of ${count(group.count)}` : count(group.count)}
          </span>
        </span>
        <span className="narrow block text-[12px] leading-snug text-soft">{about}</span>
        <span className="narrow block text-[12px] leading-snug text-faint">
          {textCounts(group.byText).join(", ")}
          {group.held > 0 ? `, ${count(group.held)} held back for an address` : ""}
        </span>
      </button>
    </div>
  );
}
