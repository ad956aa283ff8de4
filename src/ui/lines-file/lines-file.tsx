"use client";
import Link, { FileLink } from "../shell/link";
import { type DragEvent, useState } from "react";
import { type Difference } from "../../core/design/difference";
import { isExtra } from "../../core/design/kinds";
import type { LinesFileReview } from "../../server/exchange/exchange-lines";
import { LineText } from "../proof/line-text";
import { BAR_ACTION, MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { counted } from "../shell/format";
import { BarSlot } from "../shell/shell";
import { useKindWord } from "../shell/site-context";
import { Tick } from "../shell/tick";
import { useLinesFile } from "./use-lines-file";

const CHOOSE = "Choose a file to see what it would change. Nothing changes until you confirm.";

/** The whole design as a file: taken out, and brought in with what it would change shown first. */
export function LinesFile() {
  const kindWord = useKindWord();
  const { name, review, isReady, error, done, read, adopt } = useLinesFile();
  const [site, setSite] = useState(false);
  const [over, setOver] = useState(false);
  const choose = (file: File | undefined) => {
    setSite(false);
    void read(file);
  };
  const changes = review ? review.kinds.reduce((sum, kind) => sum + kind.differences.length, 0) : 0;
  const hasSettings = review !== null && review.site.length > 0;
  return (
    <div className="desk [--columns:360px_minmax(0,1fr)]">
      <BarSlot>
        <Link href="/" className={BAR_ACTION}>
          Back to the Board
        </Link>
        <button
          type="button"
          className={MAIN_ACTION}
          disabled={!isReady || (changes === 0 && !(site && hasSettings))}
          onClick={() => void adopt(site)}
        >
          Replace the drafts {counted(changes, "difference", "differences")}
        </button>
      </BarSlot>
      <section aria-label="The file" className="desk-first min-h-0 overflow-auto border-r border-hair px-4 pb-4 pt-3">
        <h1 className="text-[18px] font-bold">Lines file</h1>
        <p className="mt-1 text-soft">
          Every rule and line of the site in one file, for version control, for a colleague or for the command line.
        </p>
        <FileLink href="/api/files/lines" download className={`${PLAIN_ACTION} mt-3 inline-block`}>
          Export the drafts
        </FileLink>
        <label
          htmlFor="lines-file"
          onDragOver={(event: DragEvent) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event: DragEvent) => {
            event.preventDefault();
            setOver(false);
            choose(event.dataTransfer.files[0]);
          }}
          className={`mt-5 block border border-dashed px-4 py-6 text-center focus-within:outline focus-within:outline-2 focus-within:outline-rule ${over ? "border-key bg-cyan-pale" : "border-faint bg-sheet"}`}
        >
          <b className="block">Import a lines file</b>
          <span className="block text-soft">Drop a .lines.json here, or choose one</span>
          <span className={`${PLAIN_ACTION} mt-3 inline-block`}>Choose a file</span>
          {name !== null && <span className="mt-2 block break-words font-mono text-[12px]">{name}</span>}
          <input
            id="lines-file"
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => choose(event.target.files?.[0])}
          />
        </label>
        {error && (
          <p role="alert" className="mt-3 break-words text-magenta">
            {error}
          </p>
        )}
        {hasSettings && (
          <div className="mt-4 border-t border-hair pt-3">
            <div className="flex gap-2">
              <Tick checked={site} label="Use its site settings, too" onChange={setSite} />
              <div>
                <p className="font-semibold">Use its site settings, too</p>
                <dl className="text-[12px] text-soft">
                  {review.site.map(({ setting, before, after }) => (
                    <div key={setting} className="mt-1">
                      <dt className="font-semibold">{setting}</dt>
                      <dd className="break-words">
                        “{before}” becomes “{after}”
                      </dd>
                    </div>
                  ))}
                </dl>
              </div>
            </div>
          </div>
        )}
      </section>
      <section aria-label="Differences" className="min-h-0 min-w-0 overflow-auto bg-sheet px-6 py-4">
        {name !== null && review ? (
          <Review review={review} name={name} />
        ) : done ? (
          <p>
            {done.length === 0
              ? "The site’s settings were replaced."
              : `The drafts for ${done.map((kind) => kindWord(kind, 2)).join(", ")} were replaced.`}{" "}
            {done.map((kind) => (
              <Link
                key={kind}
                href={`/bench?kind=${kind}&text=title`}
                className="mr-3 underline decoration-hair underline-offset-4 hover:decoration-key"
              >
                See {kindWord(kind, 2)} on the Bench
              </Link>
            ))}
          </p>
        ) : (
          <p className="text-soft">{name !== null && !error ? "Comparing it with the drafts …" : CHOOSE}</p>
        )}
      </section>
    </div>
  );
}

function Review({ review, name }: { review: LinesFileReview; name: string }) {
  const kindWord = useKindWord();
  return (
    <>
      <h2 className="text-[16px] font-bold">What {name} would change</h2>
      {review.faults.map(({ kind, rule, text, message }, i) => (
        <p key={i} className="mt-2 text-magenta">
          The {text} line of {rule === null ? `the base for ${kindWord(kind, 2)}` : `“${rule}”`} has an error: {message}
          . It is imported, but not applied until it is fixed.
        </p>
      ))}
      {review.kinds.length === 0 && (
        <p className="mt-2 text-soft">The file has no lines for this site’s kinds of page.</p>
      )}
      {review.kinds.map(({ kind, differences }) => (
        <section key={kind} className="mt-4" aria-label={kindWord(kind, 2)}>
          <h3 className="border-b border-key pb-1 font-semibold">
            <span className="inline-block first-letter:uppercase">{kindWord(kind, 2)}</span>{" "}
            <span className="font-normal text-soft">
              {differences.length === 0
                ? "same as the draft"
                : counted(differences.length, "difference", "differences")}
            </span>
          </h3>
          <ul>
            {differences.map((difference, i) => (
              <li
                key={i}
                className="grid grid-cols-[220px_minmax(0,1fr)] gap-4 small:grid-cols-1 small:gap-1 border-b border-hair py-1.5"
              >
                <Whose difference={difference} />
                <What difference={difference} />
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

function Whose({ difference }: { difference: Difference }) {
  const what = {
    title: "title line",
    description: "description line",
    slug: "slug line",
    alt: "image description line",
    keywords: "meta keywords line",
    canonical: "canonical line",
    robots: "robots setting",
    address: "address line",
    moves: "pages that may move",
    movesFor: "findings that let pages move",
    condition: "condition",
    place: "position",
    switch: "switch",
    name: "name",
    rule: difference.before === null ? "new rule" : "rule removed",
  }[difference.what];
  return (
    <span>
      <b className="font-semibold">{difference.rule ?? "The base"}</b>{" "}
      <span className="block text-[12px] text-soft">{what}</span>
    </span>
  );
}

function What({ difference: { what, before, after } }: { difference: Difference }) {
  const isLine = what === "title" || what === "description" || what === "slug" || isExtra(what);
  const said = (value: string) =>
    isLine ? <LineText source={value} /> : what === "place" ? `Position ${value}` : value;
  return (
    <span className="min-w-0 break-words">
      {before !== null && (
        <del className="block no-underline">
          <span className="goes text-soft">{said(before)}</span>
        </del>
      )}
      {after !== null && <ins className="block decoration-rule decoration-2 underline-offset-4">{said(after)}</ins>}
    </span>
  );
}
