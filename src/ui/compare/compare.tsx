"use client";
import { type WorkProgress } from "../../server/workspace/watch";
import Link from "../shell/link";
import { anyText, oneOf, urlCodec } from "../shell/url-codec";
import { useUrlView } from "../shell/url-view";
import { useRouter } from "../shell/site-path";
import { useCallback, useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { type TextName, TEXTS, type Kind, kindIds } from "../../core/design/kinds";
import type { Comparison } from "../../server/bench/compare";
import { roomOf } from "../../core/proof/site-room";
import { call } from "../shell/api";
import { BAR_ACTION, PLAIN_ACTION } from "../shell/actions";
import { ago, counted } from "../shell/format";
import { BarStatus } from "../shell/bar-status";
import { BarSlot } from "../shell/shell";
import { useSite, useKindWord } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { versionsStamp } from "../shell/site-stamps";
import { Term } from "../shell/term";
import { Trouble } from "../shell/trouble";
import { versionLabel } from "../shell/version-label";
import { progressLine } from "../shell/progress-words";
import { ComparedItems } from "./compared-items";
import { Figures } from "./figures";
import type { Version } from "../../store/versions";
import { useCall } from "../shell/queries";
import { sayFailure } from "../shell/say-failure";
import type { CallResult } from "../../server/api/contract";

const PAGE = 60;

const NO_VERSIONS: readonly Version[] = [];

/** How a comparison stands in the address bar: `a` and `b` are the designs that are compared. */
const compareCodec = (kinds: readonly Kind[], first: Kind) =>
  urlCodec<{ kind: Kind; text: TextName; a: string; b: string }>(
    { kind: oneOf(kinds, first), text: oneOf(TEXTS, "title"), a: anyText("live"), b: anyText("draft") },
    ["kind", "text", "a", "b"],
  );

/** Two versions of a kind side by side over the whole set, and the pages where they differ most. */
export function Compare() {
  const kindWord = useKindWord();
  const router = useRouter();
  const { state, setDraft, refresh } = useSite();
  const first = shownKinds(state)[0]!;
  const codec = useMemo(() => compareCodec(kindIds(state.site), first), [state.site, first]);
  const [{ kind, text, a, b }, set] = useUrlView("/compare", codec);
  const { answer } = useCall("designs.versions", { kind }, versionsStamp(state));
  // Those of another kind stand there until its own are here.
  const versions = (answer ?? NO_VERSIONS).filter((version) => version.kind === kind);
  const { comparison, of, progress, error, more, retry } = useComparison(kind, text, a, b);
  const site = state.site;
  if (!site) return <p className="p-8">There are no pages yet. Import a file of pages first.</p>;
  const versionOf = (which: string) => versions.find((version) => String(version.id) === which);
  const labelOf = (which: string) => {
    if (which === "draft") return "Draft";
    if (which === "live") return "Live";
    const version = versionOf(which);
    return version ? versionLabel(version) : "A deleted version";
  };
  const choose = (which: string) => {
    call("designs.choose", { kind, which })
      .then((draft) => {
        setDraft(kind, draft);
        toast(`“${labelOf(which)}” is the draft now; the draft before it was saved as a version`);
        router.push(`/bench?kind=${kind}&text=${text}`);
      })
      .catch(sayFailure);
  };
  const remove = (id: number) => {
    const changed = () => void refresh().catch(sayFailure);
    const answered = (version: CallResult<"designs.deleteVersion">) => {
      changed();
      if (version) {
        const { name, design } = version;
        const restore = () =>
          call("designs.saveVersion", { kind: version.kind, name, design }).then(changed).catch(sayFailure);
        toast(`Version “${name}” deleted`, { action: { label: "Undo", onClick: () => void restore() } });
      }
      set({ a: a === String(id) ? "live" : a, b: b === String(id) ? "draft" : b });
    };
    call("designs.deleteVersion", { id }).then(answered).catch(sayFailure);
  };
  const side = (name: "a" | "b", which: string) => (
    <div className="flex min-w-0 items-center gap-2">
      <select
        aria-label={name === "a" ? "First version" : "Second version"}
        value={which}
        onChange={(event) => set({ [name]: event.target.value })}
        className="min-w-0 max-w-64 rounded-sm border border-edge bg-sheet px-2 py-1 font-semibold"
      >
        <option value="draft">Draft</option>
        <option value="live">Live</option>
        {versions.map((version) => (
          <option key={version.id} value={version.id}>
            {versionLabel(version)} ({ago(version.savedAt)})
          </option>
        ))}
      </select>
      {versionOf(which) && (
        <button type="button" className={`${PLAIN_ACTION} whitespace-nowrap`} onClick={() => choose(which)}>
          Make it the draft
        </button>
      )}
      {versionOf(which)?.run === null && (
        <button
          type="button"
          className="whitespace-nowrap text-soft underline decoration-hair underline-offset-4 hover:text-key"
          onClick={() => remove(Number(which))}
        >
          Delete
        </button>
      )}
    </div>
  );
  return (
    <div className="desk [--columns:360px_minmax(0,1fr)]">
      <BarSlot>
        <BarStatus>{progress ? progressLine(state.site, progress) : ""}</BarStatus>
        <Link href={`/bench?kind=${kind}&text=${text}`} className={BAR_ACTION}>
          Back to the Bench
        </Link>
      </BarSlot>
      <section
        aria-label="Figures"
        className="desk-first desk-steady min-h-0 overflow-auto border-r border-hair px-4 pb-4 pt-3"
      >
        <h1 className="text-[18px] font-bold">
          Two <Term of="version">versions</Term> side by side
        </h1>
        <div className="mt-2 flex gap-1" role="radiogroup" aria-label="Kind of page">
          {shownKinds(state, kind).map((name) => (
            <button
              key={name}
              type="button"
              role="radio"
              aria-checked={name === kind}
              onClick={() => set({ kind: name, a: "live", b: "draft" })}
              className={`rounded-sm px-2.5 py-1 capitalize ${name === kind ? "bg-key font-semibold text-sheet" : "text-soft hover:text-key"}`}
            >
              {kindWord(name, 2)}
            </button>
          ))}
        </div>
        {error && <Trouble message={error} onRetry={retry} />}
        {comparison ? (
          <Figures
            comparison={comparison}
            text={text}
            onText={(name) => set({ text: name })}
            labels={[labelOf(a), labelOf(b)]}
          />
        ) : (
          !error && <p className="mt-6 text-soft">Checking both over every page …</p>
        )}
      </section>
      <section aria-label="Pages" className="desk-list flex min-h-0 min-w-0 flex-col bg-sheet">
        <div className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-key bg-raised px-4 py-2">
          {side("a", a)}
          <span className="text-soft">against</span>
          {side("b", b)}
          <span className="ml-auto whitespace-nowrap text-soft">
            {comparison ? `${counted(comparison.total, "page differs", "pages differ")}` : ""}
          </span>
        </div>
        {comparison && (
          <ComparedItems
            kind={kind}
            text={of}
            site={site}
            comparison={comparison}
            room={roomOf(site, of)}
            onMore={more}
          />
        )}
      </section>
    </div>
  );
}

/** Both drafts' figures and the pages that differ, more of them as they come into view. */
function useComparison(
  kind: Kind,
  text: TextName,
  a: string,
  b: string,
): {
  comparison: Comparison | null;
  /** The text whose pages it has. */
  of: TextName;
  progress: WorkProgress | null;
  error: string | null;
  more: () => void;
  retry: () => void;
} {
  const { state } = useSite();
  const [wanted, setWanted] = useState(PAGE);
  useEffect(() => setWanted(PAGE), [kind, text, a, b]);
  const asked = { kind, text, a, b, from: 0, count: wanted };
  const { answer, isCurrent, progress, error, retry } = useCall("bench.compare", asked, versionsStamp(state));
  // The answer before stands until its successor is here, as what it is; that of another pair of versions does not.
  const pair = `${kind} ${a} ${b}`;
  const [shown, setShown] = useState({ pair: "", text });
  if (isCurrent && (shown.pair !== pair || shown.text !== text)) setShown({ pair, text });
  const comparison = shown.pair === pair ? answer : null;
  const more = useCallback(() => setWanted((n) => (n >= 480 ? n : n + PAGE)), []);
  return { comparison, of: shown.text, progress, error, more, retry };
}
