"use client";
import { FileLink } from "../shell/link";
import { sitePath, useRouter } from "../shell/site-path";
import { type DragEvent, useRef, useState } from "react";
import { type Kind, KINDS, kindWord } from "../../core/design/kinds";
import { TARGETS, type Target } from "../../core/design/import-targets";
import type { StoredJob } from "../../store/jobs";
import type { FieldFormat, FormatGuess } from "../../core/text/figures";
import type { ByHandChoice } from "../../core/infer/by-hand";
import type { FirstLook, ImportProgress } from "../../server/exchange/bring-in";
import { call, sendFile, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import { FIGURE_WORDS } from "../shell/figure-words";
import { Forecast, useForecast } from "./forecast";
import { isOpenJob, stopJob, useJobs, watchJobs } from "../shell/jobs";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { useTimeLeft } from "./time-left";
import { usePastedTable } from "./pasted-table";
import { BarSlot } from "../shell/shell";

const TARGET_WORDS: Partial<Record<Target, string>> = {
  name: "name (H1)",
  title: "title now",
  description: "description now",
  slug: "slug now",
  attribute: "attribute, under its own name",
  skip: "leave behind",
  keyword: "focus keyword",
  "by-hand": "which texts are by hand",
  "hand-texts": "texts by hand, not on the site yet",
  attributes: "attributes, as a JSON object",
  "made-harmless": "what was made harmless",
};
const DELIMITER_WORDS = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };

/** How a file was read, in words. */
function readAs({ source, encoding, delimiter }: FirstLook): string {
  if (source) return source.sheet === null ? source.type : `${source.type}, sheet “${source.sheet}”`;
  return `${encoding === "utf-8" ? "UTF-8" : encoding}, columns parted by ${DELIMITER_WORDS[delimiter]}`;
}

/** Brings a site's pages in: a file, a first look, what each column is, then all of it with progress. */
export function BringIn() {
  const [look, setLook] = useState<FirstLook | null>(null);
  const [targets, setTargets] = useState<readonly Target[]>([]);
  const [formats, setFormats] = useState<readonly (FieldFormat | null)[]>([]);
  const [kind, setKind] = useState<Kind>("product");
  const [error, setError] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const [byHand, setByHand] = useState<ByHandChoice>("unexplained");
  const [areAll, setAreAll] = useState(false);
  const [jobId, setJobId] = useState<number | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const jobs = useJobs();
  // After a reload the view finds an import that is still under way.
  const job = jobs.find((j) => j.id === jobId) ?? jobs.find((j) => j.type === "import" && isOpenJob(j)) ?? null;

  const told = targets.includes("id") || targets.includes("address");
  const mapping = { targets: [...targets], kind, formats: [...formats] };
  const forecast = useForecast(jobId === null ? (look?.token ?? null) : null, mapping, told);

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
  const hasKindColumn = targets.includes("kind");

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
            Bring these pages in
          </button>
        </BarSlot>
      )}
      <div className="flex items-baseline gap-5">
        <h1 className="text-[22px] font-bold">Bring in pages</h1>
        <p className="text-soft">
          A CSV or spreadsheet (XLSX, ODS) with a header row, or JSON Lines. The same file again updates its pages by id
          or address; what it does not have stays.
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
              className="rounded-sm border border-hair bg-sheet px-1 py-1 font-semibold"
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
      {error && (
        <p role="alert" className="mt-4 border-l-4 border-magenta bg-sheet px-4 py-3 text-magenta">
          {error}
        </p>
      )}
      {job && (
        <Progress
          job={job}
          onAgain={() => (setLook(null), setJobId(null), input.current && (input.current.value = ""))}
        />
      )}
      {look && !jobId && (
        <>
          {(look.notes.length > 0 || look.refused.length > 0) && <Oddities look={look} />}
          {told && <Forecast {...forecast} areAll={areAll} onAreAll={setAreAll} />}
          <div className="mt-4 flex items-center gap-3">
            <h2 className="font-bold">What each column is</h2>
            <span className="text-soft">
              {told ? (
                "Guessed from the names; correct what is wrong"
              ) : (
                <span className="font-semibold text-magenta">
                  Map a column to id or address, so that pages can be told apart
                </span>
              )}
            </span>
            {!hasKindColumn && (
              <label className="ml-auto flex items-center gap-2">
                All rows are
                <select
                  value={kind}
                  onChange={(event) => setKind(event.target.value as Kind)}
                  className="rounded-sm border border-hair bg-sheet px-1 py-1 font-semibold"
                >
                  {KINDS.map((name) => (
                    <option key={name} value={name}>
                      {kindWord(name, 2)}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </div>
          {!targets.includes("by-hand") && targets.some((target) => target === "title" || target === "description") && (
            <ByHandQuestion choice={byHand} onChoose={setByHand} />
          )}
          <div
            className="mt-2 min-h-[220px] flex-1 overflow-auto border border-hair bg-sheet"
            tabIndex={0}
            role="region"
            aria-label="The file's first rows"
          >
            <table className="border-collapse">
              <thead className="sticky top-0 z-10 bg-raised">
                <tr>
                  {look.columns.map((column, i) => (
                    <th
                      key={i}
                      scope="col"
                      className="min-w-[150px] border-b border-r border-key border-r-hair px-3 py-2 text-left align-top font-semibold"
                    >
                      <span className="block max-w-[240px] truncate">
                        {column.name || <span className="text-faint">no name</span>}
                      </span>
                      <select
                        aria-label={`What “${column.name}” is`}
                        value={targets[i]}
                        onChange={(event) =>
                          setTargets((old) =>
                            old.map((target, at) =>
                              at === i
                                ? (event.target.value as Target)
                                : target !== "attribute" && target !== "skip" && target === event.target.value
                                  ? "attribute"
                                  : target,
                            ),
                          )
                        }
                        className={`mt-1 w-full rounded-sm border bg-sheet px-1 py-0.5 font-normal ${targets[i] === "skip" ? "border-hair text-faint" : "border-rule"}`}
                      >
                        {TARGETS.map((target) => (
                          <option key={target} value={target}>
                            {TARGET_WORDS[target] ?? target}
                          </option>
                        ))}
                      </select>
                      {column.figures && targets[i] !== "skip" && (
                        <FiguresChoice
                          column={column.name}
                          figures={column.figures}
                          format={formats[i] ?? {}}
                          onChoose={(format) => setFormats((old) => old.map((own, at) => (at === i ? format : own)))}
                        />
                      )}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {look.rows.map((row, i) => (
                  <tr key={i} className="border-b border-hair">
                    {look.columns.map((_, c) => (
                      <td
                        key={c}
                        className={`max-w-[260px] truncate border-r border-hair px-3 py-1 ${targets[c] === "skip" ? "text-faint line-through" : ""}`}
                      >
                        {row[c]}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {look.rows.length === 0 && (
              <p className="p-4 text-soft">There is no row below the header. Choose a file that has some.</p>
            )}
          </div>
        </>
      )}
    </div>
  );
}

/** What was odd about the file, and the first rows that cannot be read. */
function Oddities({ look }: { look: FirstLook }) {
  return (
    <ul
      className="mt-4 border-l-4 border-magenta bg-sheet px-4 py-2 text-[13px]"
      aria-label="What is odd about the file"
    >
      {look.notes.map((note) => (
        <li key={note}>{note}</li>
      ))}
      {look.refused.slice(0, 5).map(({ line, reason, content }) => (
        <li key={line}>
          Line {count(line)} will be refused. {reason}{" "}
          <span className="font-mono text-soft">{content.slice(0, 80)}</span>
        </li>
      ))}
      {look.refused.length > 5 && <li>More rows like these will be refused; all are listed at the end.</li>}
    </ul>
  );
}

/** How a column writes its figures: what was found, and the other way. */
function FiguresChoice({
  column,
  figures,
  format,
  onChoose,
}: {
  column: string;
  figures: FormatGuess;
  format: FieldFormat;
  onChoose: (format: FieldFormat) => void;
}) {
  const about = figures.isSure ? "found in the values" : "the values do not tell; look";
  return (
    <label className="mt-1 block text-[12px] font-normal text-soft" title={figures.examples.join("   ")}>
      {figures.type === "number" ? "Numbers as" : "Dates as"}{" "}
      <select
        aria-label={`How “${column}” writes ${figures.type === "number" ? "numbers" : "dates"}`}
        value={format[figures.type]}
        onChange={(event) => onChoose({ [figures.type]: event.target.value })}
        className={`rounded-sm border bg-sheet ${figures.isSure ? "border-hair" : "border-magenta"}`}
      >
        {FIGURE_WORDS[figures.type].map(([value, label]) => (
          <option key={value} value={value}>
            {label}
          </option>
        ))}
      </select>
      <span className="narrow block max-w-[240px] truncate">
        {about}: {figures.examples.join(" · ")}
        {figures.unread > 0 && ` · ${counted(figures.unread, "is none", "are none")}`}
      </span>
    </label>
  );
}

const BY_HAND_WORDS: Record<ByHandChoice, readonly [label: string, about: string]> = {
  unexplained: ["Those that no template explains", "texts unlike what most pages of their kind share"],
  all: ["All of them", "no line replaces a title, description or slug of this file"],
  none: ["None", "lines may replace every one"],
};

/** Asks which of the texts that come in a person wrote. */
function ByHandQuestion({ choice, onChoose }: { choice: ByHandChoice; onChoose: (choice: ByHandChoice) => void }) {
  return (
    <fieldset className="mt-3 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <legend className="float-left mr-4 font-bold">Were the texts written by hand?</legend>
      {(Object.entries(BY_HAND_WORDS) as [ByHandChoice, readonly [string, string]][]).map(([name, [label, about]]) => (
        <label key={name} className="flex items-baseline gap-2">
          <input type="radio" name="by-hand" checked={choice === name} onChange={() => onChoose(name)} />
          <span>
            {label} <span className="narrow text-[12px] text-soft">{about}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}

function Progress({ job, onAgain }: { job: StoredJob; onAgain: () => void }) {
  const router = useRouter();
  const r = job.result as ImportProgress | null;
  const running = isOpenJob(job);
  const left = useTimeLeft(job.done, job.total);
  const file = (job.params as { name: string }).name;
  return (
    <section aria-label="Progress" className="mt-5 max-w-2xl border border-hair bg-sheet p-5">
      <h2 className="text-[16px] font-bold">
        {running
          ? `Bringing ${file} in …`
          : job.state === "done"
            ? `${file} is in`
            : job.state === "stopped"
              ? "Stopped: what came in stays"
              : "The file could not be brought in"}
      </h2>
      <p role="status" className="mt-2 text-[15px]">
        {running && job.total !== null
          ? `${count(r?.rows ?? job.done)} of ${counted(job.total, "row", "rows")}`
          : counted(r?.rows ?? job.done, "row", "rows")}{" "}
        read
        {r && (
          <>
            {" = "}
            <b>{count(r.added)}</b> added +{" "}
            {r.returned > 0 && (
              <>
                <b>{count(r.returned)}</b> back that were gone +{" "}
              </>
            )}
            <b>{count(r.updated)}</b> changed + <b>{count(r.unchanged)}</b> the same +{" "}
            <b className={r.refused > 0 ? "text-magenta" : ""}>{count(r.refused)}</b> refused
            {r.byHand > 0 && (
              <>
                ; <b>{count(r.byHand)}</b> texts taken as written by hand
              </>
            )}
            {r.gone > 0 && (
              <>
                ; <b>{count(r.gone)}</b> {r.gone === 1 ? "page" : "pages"} not in it marked as gone
              </>
            )}
            {r.stayed > 0 && (
              <span className="text-magenta">
                ; {counted(r.stayed, "page is", "pages are")} not in it, and {r.stayed === 1 ? "stays" : "stay"}: rows
                were refused, which may be theirs
              </span>
            )}
          </>
        )}
      </p>
      {running && (
        <>
          <progress
            aria-label="Rows are being read"
            className="mt-3 block h-1.5 w-full"
            {...(job.total === null ? {} : { max: Math.max(1, job.total), value: job.done })}
          />
          <p className="mt-1 h-5 text-soft">{left}</p>
        </>
      )}
      {job.message && (
        <p role="alert" className="mt-2 text-magenta">
          {job.message}
        </p>
      )}
      <div className="mt-4 flex gap-2">
        {running ? (
          <button type="button" className={PLAIN_ACTION} onClick={() => void stopJob(job.id)}>
            Stop
          </button>
        ) : (
          <>
            <button type="button" className={PLAIN_ACTION} onClick={() => router.push("/items")}>
              See the pages
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => router.push("/")}>
              See the board
            </button>
            {r && (
              <button type="button" className={PLAIN_ACTION} onClick={() => router.push(`/runs/in/${r.import}`)}>
                What it did
              </button>
            )}
            <button type="button" className={PLAIN_ACTION} onClick={onAgain}>
              Bring in another file
            </button>
          </>
        )}
        {r && r.refused > 0 && (
          <FileLink className={PLAIN_ACTION} href={`/api/imports/${r.import}/refused`}>
            {counted(r.refused, "refused row", "refused rows")} with reasons
          </FileLink>
        )}
      </div>
    </section>
  );
}
