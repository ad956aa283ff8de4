"use client";
import Link from "../shell/link";
import { useState } from "react";
import { type Side } from "../../core/checks/findings";
import { type Place, PLACE_FINDINGS, PLACES } from "../../core/keywords/places";
import type { MatrixRow } from "../../server/keywords/keyword-matrix";
import { count } from "../shell/format";
import { progressLine } from "../shell/progress-words";
import { type Called } from "../shell/queries";
import { useKindWord, useSite } from "../shell/site-context";
import { shownKinds } from "../shell/site-kinds";
import { SideFold } from "../shell/side-fold";
import { SIDEWAYS } from "../shell/sideways";

const FIRST_LOOK = "Checking every page …";

/** What of a place's pages with a keyword has nothing there; said once, at the title, of what is told of titles. */
const BLANK_WORDS: Readonly<Record<Place, string | null>> = {
  title: "have none",
  "first third": null,
  visible: null,
  description: "have none",
  slug: "have none",
  H1: null,
  "first paragraph": "have none",
  body: "have none",
};

/** Of a kind's pages with a keyword: how many have it in a place. Who has it late or cut off has it in the title all the same. */
function standing({ withKeyword, missing, blank }: MatrixRow, side: Side, place: Place): number {
  const own = missing[side];
  const left = withKeyword - blank[side][place];
  if (place === "visible") return left - own.title - own.visible;
  if (place === "first third") return left - own.title - own.visible - own["first third"];
  return left - own[place];
}

/** Whole percent; neither all nor none where that is not so. */
function percent(there: number, all: number): number {
  return there === 0 || there === all
    ? (there / all) * 100
    : Math.max(1, Math.min(99, Math.round((there / all) * 100)));
}

/** Where keywords stand over the whole set: kinds by places, each cell the way to the pages whose keyword is not there. */
export function Matrix({ asked }: { asked: Called<MatrixRow[]> }) {
  const kindWord = useKindWord();
  const { state } = useSite();
  const [side, setSide] = useState<Side>("draft");
  const rows = asked.answer;
  return (
    <section aria-label="Keyword placement" className={`${SIDEWAYS} border-b border-hair bg-raised px-5 pb-3 pt-3`}>
      <SideFold label="Keyword placement" now={side}>
        <div className="mb-2 flex items-baseline gap-4">
          <h2 className="font-bold">Keyword placement</h2>
          <div role="radiogroup" aria-label="Which texts" className="flex gap-3">
            {(
              [
                ["live", "live"],
                ["draft", "draft"],
              ] as const
            ).map(([one, label]) => (
              <button
                key={one}
                type="button"
                role="radio"
                aria-checked={side === one}
                onClick={() => setSide(one)}
                className={
                  side === one
                    ? "font-semibold underline decoration-rule decoration-2 underline-offset-4"
                    : "text-soft hover:text-key"
                }
              >
                {label}
              </button>
            ))}
          </div>
          <span
            role="status"
            className="min-w-0 flex-1 truncate text-[12px] text-soft small:h-[17px] small:w-full small:flex-none"
          >
            {asked.error ?? (asked.progress ? progressLine(state.site, asked.progress) : rows ? "" : FIRST_LOOK)}
          </span>
        </div>
        <table className="w-full table-fixed small:min-w-[800px] border-separate border-spacing-x-1.5 border-spacing-y-1.5 text-center">
          <thead className="text-[12px] text-soft">
            <tr>
              <th scope="col" className="w-44 text-left font-normal">
                pages with a keyword
              </th>
              {PLACES.map((place) => (
                <th key={place} scope="col" className="font-normal">
                  {place}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {!rows &&
              !asked.error &&
              shownKinds(state).map((kind) => (
                <tr key={kind} aria-hidden="true">
                  <th scope="row" className="text-left font-semibold">
                    <span className="block">{kindWord(kind, 2)}</span>
                    <span className="narrow block text-[12px] font-normal">&nbsp;</span>
                  </th>
                  {PLACES.map((place) => (
                    <td
                      key={place}
                      className="h-[62px] rounded-sm border border-dashed border-hair px-1 py-1 text-faint small:h-[77px]"
                    >
                      <span className="block font-bold">–</span>
                      <span className="narrow block text-[12px]">&nbsp;</span>
                    </td>
                  ))}
                </tr>
              ))}
            {(rows ?? []).map((row) => (
              <tr key={row.kind}>
                <th scope="row" className="text-left font-semibold">
                  <span className="block">{kindWord(row.kind, 2)}</span>
                  <span className="narrow block text-[12px] font-normal text-soft">
                    {count(row.withKeyword)} of {count(row.pages)}
                  </span>
                </th>
                {PLACES.map((place) => {
                  const there = standing(row, side, place);
                  const missing = row.missing[side][place];
                  const { subject, id } = PLACE_FINDINGS[place];
                  const said = place === "first third" ? "late" : place === "visible" ? "cut off" : "missing";
                  return (
                    <td
                      key={place}
                      className={`h-[62px] rounded-sm border px-1 py-1 ${there > 0 ? "border-hair bg-sheet" : "border-dashed border-faint"}`}
                    >
                      <span className={`block font-bold ${there === 0 ? "text-faint" : ""}`}>
                        {row.withKeyword === 0 ? "–" : `${percent(there, row.withKeyword)} %`}
                      </span>
                      {missing > 0 ? (
                        <Link
                          href={`/pages?kind=${row.kind}&findings=${subject}.${id}${side === "draft" ? "&side=draft" : ""}`}
                          aria-label={`${count(missing)} ${kindWord(row.kind, missing)}: keyword ${said}, ${place}`}
                          className="narrow block text-[12px] text-magenta underline decoration-hair underline-offset-2 hover:decoration-magenta"
                        >
                          {count(missing)} {said}
                        </Link>
                      ) : (
                        <span className="narrow block text-[12px] text-faint">
                          {row.withKeyword === 0 ? "no keyword" : `none ${said}`}
                        </span>
                      )}
                      {row.blank[side][place] > 0 && BLANK_WORDS[place] !== null && (
                        <span className="narrow block text-[12px] text-soft">
                          {count(row.blank[side][place])} {BLANK_WORDS[place]}
                        </span>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </SideFold>
    </section>
  );
}
