"use client";
import Link from "../shell/link";
import { useRouter } from "../shell/site-path";
import { type KeyboardEvent, lazy, Suspense, useLayoutEffect, useRef, useState } from "react";
import { kindIds, kindOf, EXTRAS, type TextName, TEXTS, textsOf, type Kind } from "../../core/design/kinds";
import { Histogram } from "../proof/histogram";
import { LineText } from "../proof/line-text";
import { roomOf } from "../../core/proof/site-room";
import { ago, count, counted } from "../shell/format";
import { BAR_ACTION, MAIN_ACTION } from "../shell/actions";
import { BarStatus } from "../shell/bar-status";
import { BarSlot } from "../shell/shell";
import { SinglePageCells } from "./single-page";
import { useSite, useKindWord } from "../shell/site-context";
import { draftOf, linesOfKind, shownKinds } from "../shell/site-kinds";
import { siteStamp } from "../shell/site-stamps";
import { FirstLines } from "./first-lines";
import { nextStep, NextStepLine } from "./next-step";
import { Trouble } from "../shell/trouble";
import { changedOf, liveDifference } from "../shell/live-difference";
import { Term } from "../shell/term";
import { progressLine } from "../shell/progress-words";
import type { CallResult } from "../../server/api/contract";
import { useCall } from "../shell/queries";

type KindProof = CallResult<"bench.board">[number];

/** Most sites have none; it brings the line editor along. */
const ExtraTexts = lazy(() => import("./extra-texts").then((part) => ({ default: part.ExtraTexts })));

const LABELS: Record<TextName, string> = { title: "Title", description: "Description", slug: "Slug" };

/** The nine lines at a glance, with what they do to the whole set. */
export function Board() {
  const { state } = useSite();
  const router = useRouter();
  const { answer: kinds, error, progress, retry } = useCall("bench.board", {}, siteStamp(state));
  const switchedOn = EXTRAS.filter((extra) => state.site?.extras[extra]);
  const pages = Object.values(state.counts).reduce((sum, count) => sum + count, 0);
  const lines = kindIds(state.site).reduce((sum, kind) => sum + linesOfKind(state, kind), 0);
  const changes =
    kinds?.reduce((sum, kind) => sum + TEXTS.reduce((s, text) => s + kind.texts[text].draft.changed, 0), 0) ?? 0;
  const run = state.lastRun;
  const [isProposing, setProposing] = useState(false);
  const shown = pages + lines > 0 ? shownKinds(state) : [];

  const step = nextStep(pages, lines, kinds && changes, run !== null);

  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 3, ArrowUp: -3 }[event.key];
    if (step === undefined) return;
    const cells = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-cell]")];
    const now = cells.indexOf(document.activeElement as HTMLElement);
    const next = cells[now + step];
    if (next) {
      event.preventDefault();
      next.focus();
    }
  };

  return (
    <div className="h-full overflow-auto px-6 pb-5 pt-4 small:px-3">
      <BarSlot>
        <BarStatus>{progress ? progressLine(state.site, progress) : ""}</BarStatus>
        <Link href="/lines" className={BAR_ACTION}>
          Lines file
        </Link>
        <Link href="/import" className={BAR_ACTION}>
          Import pages
        </Link>
        {/* As wide before the figure has come as with it: on a small screen it would go to the next row. */}
        <button
          type="button"
          className={`${MAIN_ACTION} small:min-w-[60%]`}
          disabled={changes === 0}
          onClick={() => router.push("/review")}
        >
          Review {counted(changes, "change", "changes")}
        </button>
      </BarSlot>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-[22px] font-bold">
          Nine <Term of="line">lines</Term> for {counted(pages, "page", "pages")}
        </h1>
        <p className="text-soft">
          {run ? (
            <Link
              href={`/runs/${run.id}`}
              className="-my-1 inline-block py-1 underline decoration-hair underline-offset-4 hover:decoration-key"
            >
              Last run {ago(run.created_at)}, {counted(run.applied, "change", "changes")}
              {run.type === "take-back" ? " undone" : run.taken_back_by === null ? "" : ", undone"}
            </Link>
          ) : (
            "Nothing applied yet"
          )}
        </p>
      </div>
      {error && <Trouble message={error} onRetry={retry} />}
      <NextStepLine
        step={step}
        isSure={kinds !== null || step !== "review"}
        firstKind={shown[0] ?? "product"}
        onPropose={() => setProposing(true)}
      />
      {isProposing && step === "line" && <FirstLines onClose={() => setProposing(false)} />}
      <div
        className="mt-3 grid grid-cols-[112px_repeat(3,minmax(0,1fr))] small:grid-cols-1"
        onKeyDown={onKeyDown}
        aria-busy={kinds === null}
      >
        {shown.length > 0 && <div className="border-b border-key small:hidden" />}
        {(shown.length > 0 ? TEXTS : []).map((text) => (
          <h2 key={text} className="border-b border-key px-3.5 pb-2 pt-1 font-semibold small:hidden">
            {LABELS[text]}
          </h2>
        ))}
        {shown.map((kind) => (
          <KindRow
            key={kind}
            kind={kind}
            proved={kinds?.find((proved) => proved.kind === kind) ?? null}
            loading={kinds === null}
          />
        ))}
      </div>
      {switchedOn.length > 0 && (
        <Suspense>
          <ExtraTexts extras={switchedOn} />
        </Suspense>
      )}
    </div>
  );
}

function KindRow({ kind, proved, loading }: { kind: Kind; proved: KindProof | null; loading: boolean }) {
  const kindWord = useKindWord();
  const { state } = useSite();
  const total = state.counts[kind] ?? 0;
  return (
    <>
      <div className="border-b border-hair py-4 pr-3 small:flex small:flex-wrap small:items-baseline small:gap-x-4 small:pb-2">
        <h2 className="text-[16px] font-semibold leading-tight first-letter:uppercase">
          {kindWord(kind, total === 1 ? 1 : 2)}
        </h2>
        <p className="narrow text-soft">{counted(total, "page", "pages")}</p>
        <p className="narrow mt-2 min-h-[17px] text-[12px] text-soft small:mt-0 small:w-full">
          {proved ? liveDifference(changedOf(proved)) : null}
        </p>
      </div>
      {total === 1 && kindOf(state.site, kind)?.isSingle ? (
        <SinglePageCells kind={kind} />
      ) : (
        textsOf(kind).map((text) => (
          <Cell key={text} kind={kind} text={text} proved={proved} loading={loading} empty={total === 0} />
        ))
      )}
      {textsOf(kind).length < TEXTS.length && (
        <p className="narrow border-b border-hair px-3.5 py-3 text-faint">
          The home page stays at the site’s own address
        </p>
      )}
    </>
  );
}

function Cell({
  kind,
  text,
  proved,
  loading,
  empty,
}: {
  kind: Kind;
  text: TextName;
  proved: KindProof | null;
  loading: boolean;
  empty: boolean;
}) {
  const kindWord = useKindWord();
  const { state } = useSite();
  const site = state.site!;
  const [width, setWidth] = useState(330);
  const holder = useRef<HTMLAnchorElement>(null);
  useLayoutEffect(() => {
    const measure = () => setWidth(Math.max(160, (holder.current?.clientWidth ?? 358) - 28));
    measure();
    window.addEventListener("resize", measure);
    return () => window.removeEventListener("resize", measure);
  }, []);
  const room = roomOf(site, text);
  const known = proved?.texts[text];
  const { design } = draftOf(state, kind);
  const line = design.base[text];
  const rules = design.rules.filter((rule) => !rule.off && rule[text]?.trim()).length;
  const shown = room.width * 1.22;
  const scale = width / shown;
  return (
    <Link
      ref={holder}
      data-cell={`${kind}-${text}`}
      href={`/bench?kind=${kind}&text=${text}`}
      aria-label={`${LABELS[text]} for ${kindWord(kind, 2)}: open on the Bench`}
      className="flex min-h-[206px] min-w-0 flex-col border-b border-r border-hair bg-sheet px-3.5 py-3 first-of-type:border-l small:min-h-[210px] small:border-l hover:relative hover:outline hover:outline-2 hover:outline-key"
    >
      <span aria-hidden="true" className="hidden font-semibold small:block">
        {LABELS[text]}
      </span>
      <span className="block h-[23px] overflow-hidden text-ellipsis whitespace-nowrap" title={line}>
        {line ? <LineText source={line} /> : <span className="text-faint">No line: the live text stays</span>}
      </span>
      <span className="mt-2 block h-[62px]">
        {known && (
          <Histogram
            bins={known.draft.histogram}
            binSize={known.draft.binSize}
            limit={room.width}
            unit={room.unit}
            axis={{ origin: 0, scale, width }}
            height={62}
            showLimit
            label={`Sizes of ${count(known.draft.total)} texts; ${count(known.draft.tooWide)} are beyond ${room.width} ${room.unit}`}
          />
        )}
      </span>
      <span
        className="mt-2 block text-[13px] leading-[1.5] text-soft"
        style={{ fontFamily: text === "slug" ? "var(--font-mono)" : "var(--font-desktop)" }}
      >
        {(proved?.examples[text] ?? []).map((example, i) => (
          <span key={i} className="block truncate">
            {example}
          </span>
        ))}
      </span>
      <span className="mt-auto flex flex-wrap gap-x-3.5 pt-2 text-[12.5px]">
        {known ? (
          <>
            {rules > 0 && <Figure value={rules} label={rules === 1 ? "rule" : "rules"} />}
            {known.faults.length > 0 && (
              <b className="text-magenta">{known.faults.length === 1 ? "A line has an error" : "Lines have errors"}</b>
            )}
            {known.draft.missing > 0 && <Figure value={known.draft.missing} label="missing" magenta />}
            {text === "slug" ? (
              <>
                <Figure value={known.draft.changed} label={known.draft.changed === 1 ? "moves" : "move"} />
                <Figure value={known.draft.duplicates} label="clash" magenta />
                {known.draft.tooWide > 0 && <Figure value={known.draft.tooWide} label="shortened" />}
              </>
            ) : (
              <>
                <Figure value={known.draft.tooWide} label="too wide" magenta />
                <Figure
                  value={known.draft.duplicates}
                  label={known.draft.duplicates === 1 ? "duplicate" : "duplicates"}
                  magenta
                />
              </>
            )}
            {known.draft.byHand > 0 && <Figure value={known.draft.byHand} label="by hand" />}
          </>
        ) : (
          <span className="text-faint">{loading ? "Checking every page …" : empty ? "No pages of this kind" : ""}</span>
        )}
      </span>
    </Link>
  );
}

function Figure({ value, label, magenta }: { value: number; label: string; magenta?: boolean }) {
  return (
    <span className="narrow whitespace-nowrap">
      <b className={magenta && value > 0 ? "text-magenta" : ""}>{count(value)}</b> {label}
    </span>
  );
}
