"use client";
import { useEffect, useState } from "react";
import { type Target } from "../../core/design/import-targets";
import { type Kind } from "../../core/design/kinds";
import type { ByHandChoice } from "../../core/infer/by-hand";
import type { FieldFormat } from "../../core/text/figures";
import type { FirstLook } from "../../server/exchange/bring-in";
import { MAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count } from "../shell/format";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";
import { ByHandQuestion } from "./by-hand-question";
import { ColumnsTable } from "./columns-table";
import { addedKinds, NO_KINDS, withWords } from "./file-kinds";
import { Forecast, useForecast } from "./forecast";
import { UnknownKinds, WholeKind } from "./kinds-choice";
import { ImportError } from "./import-error";

const firstFormats = ({ columns }: FirstLook): readonly (FieldFormat | null)[] =>
  columns.map(({ figures, format }) => format ?? (figures && { [figures.type]: figures.format }));

/** What a file's columns, kinds and texts are taken for, with what its import would do; from here it begins. */
export function FileChoices({
  look,
  kind,
  onKind,
  onBegun,
}: {
  look: FirstLook;
  /** Of all its rows, where no column says it. */
  kind: Kind;
  onKind: (kind: Kind) => void;
  /** @param job the import's. */
  onBegun: (job: number) => void;
}) {
  const { site } = useSite().state;
  const [targets, setTargets] = useState<readonly Target[]>(() => look.columns.map(({ target }) => target));
  const [formats, setFormats] = useState(() => firstFormats(look));
  const [fileKinds, setFileKinds] = useState(NO_KINDS);
  const [byHand, setByHand] = useState<ByHandChoice>(look.byHand ?? "unexplained");
  const [areAll, setAreAll] = useState(false);
  const [isBeginning, setBeginning] = useState(false);
  const [error, setError] = useState<string | null>(null);

  const areMatched = targets.includes("id") || targets.includes("address");
  const hasKindColumn = targets.includes("kind");
  const asked = hasKindColumn ? { ...fileKinds, whole: null } : { ...fileKinds, words: [] };
  const mapping = {
    targets: [...targets],
    kind: asked.whole?.id ?? kind,
    formats: [...formats],
    kinds: [...addedKinds(site, asked)],
  };
  const forecast = useForecast(look.token, mapping, areMatched);
  const unknownKinds = forecast.foreseen?.unknownKinds;
  useEffect(() => {
    if (unknownKinds) setFileKinds((old) => withWords(old, unknownKinds));
  }, [unknownKinds]);
  const asksByHand =
    !targets.includes("by-hand") && targets.some((target) => target === "title" || target === "description");

  const begin = async () => {
    setBeginning(true);
    setError(null);
    try {
      const rows = forecast.foreseen?.rows ?? null;
      const { token, file: name } = look;
      onBegun((await call("exchange.bringIn", { token, name, mapping, byHand, areAll, rows })).job);
    } catch (e) {
      setError(wordsOf(e));
      setBeginning(false);
    }
  };
  return (
    <>
      <BarSlot>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!areMatched || isBeginning}
          onClick={() => void begin()}
        >
          Import these pages
        </button>
      </BarSlot>
      {error && <ImportError message={error} />}
      {(look.notes.length > 0 || look.refused.length > 0) && <Oddities look={look} />}
      {areMatched && <Forecast {...forecast} areAll={areAll} onAreAll={setAreAll} />}
      {hasKindColumn && <UnknownKinds kinds={fileKinds} onKinds={setFileKinds} />}
      <div className="mt-4 flex items-center gap-3">
        <h2 className="font-bold">What each column is</h2>
        <span className="text-soft">
          {areMatched ? (
            "Guessed from the column names; correct any that are wrong"
          ) : (
            <span className="font-semibold text-magenta">
              Map a column to id or address, so that each row can be matched to a page
            </span>
          )}
        </span>
        {!hasKindColumn && <WholeKind kind={kind} onKind={onKind} kinds={fileKinds} onKinds={setFileKinds} />}
      </div>
      {asksByHand && <ByHandQuestion choice={byHand} onChoose={setByHand} />}
      <ColumnsTable look={look} targets={targets} onTargets={setTargets} formats={formats} onFormats={setFormats} />
    </>
  );
}

/** What was odd about the file, and the first rows that cannot be read. */
function Oddities({ look }: { look: FirstLook }) {
  return (
    <ul className="mt-4 border-l-4 border-magenta bg-sheet px-4 py-2 text-[13px]" aria-label="Problems in the file">
      {look.notes.map((note) => (
        <li key={note}>{note}</li>
      ))}
      {look.refused.slice(0, 5).map(({ line, reason, content }) => (
        <li key={line}>
          Line {count(line)} will be rejected. {reason}{" "}
          <span className="font-mono text-soft">{content.slice(0, 80)}</span>
        </li>
      ))}
      {look.refused.length > 5 && <li>More rows like these will be rejected; the full list comes after the import.</li>}
    </ul>
  );
}
