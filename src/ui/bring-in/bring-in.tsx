"use client";
import { sitePath } from "../shell/site-path";
import { type DragEvent, useEffect, useRef, useState } from "react";
import { type Kind } from "../../core/design/kinds";
import { type Target } from "../../core/design/import-targets";
import type { FieldFormat } from "../../core/text/figures";
import type { ByHandChoice } from "../../core/infer/by-hand";
import type { FirstLook } from "../../server/exchange/bring-in";
import { call, sendFile, wordsOf } from "../shell/api";
import { count } from "../shell/format";
import { addedKinds, NO_KINDS, withWords } from "./file-kinds";
import { UnknownKinds, WholeKind } from "./kinds-choice";
import { ByHandQuestion } from "./by-hand-question";
import { ColumnsTable } from "./columns-table";
import { ImportProgress } from "./import-progress";
import { Forecast, useForecast } from "./forecast";
import { isOpenJob, useJobs, watchJobs } from "../shell/jobs";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { usePastedTable } from "./pasted-table";
import Link from "../shell/link";
import { BarSlot } from "../shell/shell";
import { useSite } from "../shell/site-context";

const DELIMITER_WORDS = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };

/** How a file was read, in words. */
function readAs({ source, encoding, delimiter }: FirstLook): string {
  if (source) return source.sheet === null ? source.type : `${source.type}, sheet “${source.sheet}”`;
  return `${encoding === "utf-8" ? "UTF-8" : encoding}, columns separated by ${DELIMITER_WORDS[delimiter]}`;
}

/** Brings a site's pages in: a file, a first look, what each column is, then all of it with progress. */
export function BringIn() {
  const [look, setLook] = useState<FirstLook | null>(null);
  const [targets, setTargets] = useState<readonly Target[]>([]);
  const [formats, setFormats] = useState<readonly (FieldFormat | null)[]>([]);
  const [kind, setKind] = useState<Kind>("product");
  const [fileKinds, setFileKinds] = useState(NO_KINDS);
  const [error, setError] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [byHand, setByHand] = useState<ByHandChoice>("unexplained");
  const [areAll, setAreAll] = useState(false);
  const [jobId, setJobId] = useState<number | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const { state } = useSite();
  const jobs = useJobs();
  // After a reload the view finds an import that is still under way.
  const job = jobs.find((j) => j.id === jobId) ?? jobs.find((j) => j.type === "import" && isOpenJob(j)) ?? null;

  const told = targets.includes("id") || targets.includes("address");
  const hasKindColumn = targets.includes("kind");
  const asked = hasKindColumn ? { ...fileKinds, whole: null } : { ...fileKinds, words: [] };
  const mapping = {
    targets: [...targets],
    kind: asked.whole?.id ?? kind,
    formats: [...formats],
    kinds: [...addedKinds(state.site, asked)],
  };
  const forecast = useForecast(jobId === null ? (look?.token ?? null) : null, mapping, told);
  const unknownKinds = forecast.foreseen?.unknownKinds;
  useEffect(() => {
    if (unknownKinds) setFileKinds((old) => withWords(old, unknownKinds));
  }, [unknownKinds]);

  const show = (answer: FirstLook) => {
    setLook(answer);
    setTargets(answer.columns.map((column) => column.target));
    setFormats(answer.columns.map(({ figures, format }) => format ?? (figures && { [figures.type]: figures.format })));
    if (answer.kind) setKind(answer.kind);
    if (answer.byHand) setByHand(answer.byHand);
  };
  const chooseSheet = async ({ token, file }: FirstLook, sheet: string) => {
    setReading(true);
    setError(null);
    try {
      show(await call("exchange.chooseSheet", { token, name: file, sheet }));
    } catch (e) {
      setError(`${file}: ${wordsOf(e)}`);
    } finally {
      setReading(false);
    }
  };
  const take = async (file: File) => {
    setReading(true);
    setError(null);
    setLook(null);
    setAreAll(false);
    setFileKinds(NO_KINDS);
    setJobId(null);
    try {
      const answer = await sendFile<FirstLook>(
        sitePath(`/api/files/pages?name=${encodeURIComponent(file.name)}`),
        file,
      );
      show(answer);
    } catch (e) {
      setError(`${file.name}: ${wordsOf(e)}`);
    } finally {
      setReading(false);
    }
  };
  const begin = async () => {
    if (!look) return;
    setError(null);
    try {
      const rows = forecast.foreseen?.rows ?? null;
      const { job: id } = await call("exchange.bringIn", {
        token: look.token,
        name: look.file,
        mapping,
        byHand,
        areAll,
        rows,
      });
      setJobId(id);
      watchJobs();
    } catch (e) {
      setError(wordsOf(e));
    }
  };
  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const file = event.dataTransfer.files[0];
    if (file) void take(file);
  };
  usePastedTable((file) => void take(file));

  return (
    <div
      className="flex h-full flex-col overflow-auto px-6 py-4"
      onDragOver={(event) => (event.preventDefault(), setOver(true))}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      {look && !jobId && (
        <BarSlot>
          <button type="button" className={MAIN_ACTION} disabled={!told} onClick={() => void begin()}>
            Import these pages
          </button>
        </BarSlot>
      )}
      <div className="flex items-baseline gap-5 small:block">
        <h1 className="whitespace-nowrap text-[22px] font-bold">Import pages</h1>
        <p className="text-soft">
          A CSV or spreadsheet (XLSX, ODS) with a header row, or JSON Lines. Importing the same file again updates its
          pages by id or address; pages that are not in it stay.
        </p>
      </div>
      <div
        className={`mt-4 flex items-center gap-4 border border-dashed px-5 py-4 ${over ? "border-rule bg-cyan-pale" : "border-faint bg-sheet"}`}
      >
        <input
          ref={input}
          id="file"
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.ods,.jsonl,.ndjson,.json,text/csv"
          className="sr-only"
          onChange={(event) => event.target.files?.[0] && void take(event.target.files[0])}
        />
        <label htmlFor="file" className={`${PLAIN_ACTION} inline-block`}>
          Choose a file
        </label>
        <span className="text-soft" role="status">
          {reading ? (
            "Reading the file …"
          ) : look ? (
            <>
              <b className="text-key">{look.file}</b>, {readAs(look)}
            </>
          ) : (
            "or drop it here, or paste a table that was copied from a spreadsheet"
          )}
        </span>
        {look && look.source && look.source.sheets.length > 1 && !jobId && (
          <label className="ml-auto flex items-center gap-2">
            Sheet
            <select
              value={look.source.sheet ?? ""}
              disabled={reading}
              onChange={(event) => void chooseSheet(look, event.target.value)}
              className="rounded-sm border border-edge bg-sheet px-1 py-1 font-semibold"
            >
              {look.source.sheets.map((name) => (
                <option key={name} value={name}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {!look && (
        <p className="mt-3">
          <Link href="/connection" className="underline underline-offset-4">
            {state.connection ? "Import from the live site" : "Connect the site’s interface"}
          </Link>
        </p>
      )}
      {error && (
        <p role="alert" className="mt-4 border-l-4 border-magenta bg-sheet px-4 py-3 text-magenta">
          {error}
        </p>
      )}
      {job && (
        <ImportProgress
          job={job}
          onAgain={() => (setLook(null), setJobId(null), input.current && (input.current.value = ""))}
        />
      )}
      {look && !jobId && (
        <>
          {(look.notes.length > 0 || look.refused.length > 0) && <Oddities look={look} />}
          {told && <Forecast {...forecast} areAll={areAll} onAreAll={setAreAll} />}
          {hasKindColumn && <UnknownKinds kinds={fileKinds} onKinds={setFileKinds} />}
          <div className="mt-4 flex items-center gap-3">
            <h2 className="font-bold">What each column is</h2>
            <span className="text-soft">
              {told ? (
                "Guessed from the column names; correct any that are wrong"
              ) : (
                <span className="font-semibold text-magenta">
                  Map a column to id or address, so that each row can be matched to a page
                </span>
              )}
            </span>
            {!hasKindColumn && <WholeKind kind={kind} onKind={setKind} kinds={fileKinds} onKinds={setFileKinds} />}
          </div>
          {!targets.includes("by-hand") && targets.some((target) => target === "title" || target === "description") && (
            <ByHandQuestion choice={byHand} onChoose={setByHand} />
          )}
          <ColumnsTable look={look} targets={targets} onTargets={setTargets} formats={formats} onFormats={setFormats} />
        </>
      )}
    </div>
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
