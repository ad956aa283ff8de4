import { folderOf } from "../../core/addresses/addresses";
import { type Site } from "../../core/design/design";
import { wordChanges } from "../../core/proof/word-changes";
import type { ReviewedChange } from "../../server/review/reviewed-change";
import { roomOf } from "../../core/proof/site-room";
import { MarkedText } from "./marked-text";
import { surfaceType } from "./true-size";

/** A change as it is drawn: what stood, what comes, and how wide both are in the text's measure. */
export type DrawnChange = Pick<
  ReviewedChange,
  "before" | "after" | "beforeSize" | "afterSize" | "beforeFits" | "afterFits" | "path"
> & { readonly text: ReviewedChange["text"] | "address"; readonly newPath?: string };

/** Whether a page goes to another folder, so that its whole address says what changes. */
function isWholeMove({ text, path, newPath }: DrawnChange): boolean {
  return text === "slug" && path !== "" && newPath !== undefined && folderOf(newPath) !== folderOf(path);
}

/** Texts that are read letter by letter, in no place of a known width. */
function isMono(text: DrawnChange["text"]): text is "slug" | "address" | "robots" | "body" | "canonical" {
  return text === "slug" || text === "address" || text === "robots" || text === "body" || text === "canonical";
}

/** Old above new at true size, what goes on a grey ground and what comes underlined; with `equal` neither is the old one, and both are underlined where they differ. */
export function ChangePair({ change, site, equal }: { change: DrawnChange; site: Site; equal?: boolean }) {
  const { text } = change;
  const [before, after] = isWholeMove(change) ? [change.path, change.newPath!] : [change.before, change.after];
  const changes = wordChanges(before, after);
  const isExtraText = text === "alt" || text === "keywords";
  // Extra texts are read in no place of a known width: they are drawn as descriptions are.
  const room = isMono(text) ? null : roomOf(site, isExtraText ? "description" : text);
  const type = surfaceType(room?.surface ?? null);
  const unit = isMono(text) || isExtraText ? "ch" : "px";
  const shown = (path: string) => (text === "slug" && !isWholeMove(change) ? folderOf(path) : "");
  const folder = shown(change.path);
  const newFolder = change.path === "" ? shown(change.newPath ?? "") : folder;
  const same = before === after;
  // A page without a canonical lacks nothing.
  const isOwnAddress = text === "canonical" && before === "";
  const limit = isExtraText ? null : (room?.width ?? null);
  return (
    <div className="absolute inset-0 overflow-hidden pl-12 pr-24 print:static print:p-0 print:pb-2" style={type}>
      {limit !== null && (
        <span
          aria-hidden="true"
          className="absolute inset-y-0 w-[1.5px] bg-rule print:hidden"
          style={{ left: 48 + limit }}
        />
      )}
      <p
        className={`proof-type absolute top-[7px] print:static print:whitespace-normal ${equal ? "text-key" : "text-faint"}`}
        style={{ lineHeight: "27px" }}
      >
        {isOwnAddress ? (
          <span className="font-sans text-[13px] text-soft">the page’s own address</span>
        ) : before === "" ? (
          <span
            className="inline-block h-5 w-40 border border-dashed border-magenta align-middle"
            aria-label="nothing before"
          />
        ) : (
          <>
            {folder}
            <MarkedText stretches={changes.before} as={equal ? "differs" : "goes"} />
          </>
        )}
      </p>
      <p
        className="proof-type absolute top-[34px] text-key print:static print:whitespace-normal"
        style={{ lineHeight: "27px" }}
      >
        {same ? (
          <span className="font-sans text-[13px] text-soft">stays as it is</span>
        ) : (
          <>
            {newFolder}
            <MarkedText stretches={changes.after} as="comes" />
          </>
        )}
      </p>
      <span
        className={`narrow absolute right-0 top-[7px] w-24 print:static print:float-right print:bg-none bg-gradient-to-r from-transparent via-[var(--under,var(--sheet))] via-25% to-[var(--under,var(--sheet))] pr-5 text-right font-sans text-[12px] leading-[27px] ${change.beforeFits ? "text-soft" : "text-magenta"}`}
      >
        {before === "" ? (isOwnAddress ? "" : "empty") : `${Math.round(change.beforeSize)} ${unit}`}
      </span>
      <span
        className={`narrow absolute right-0 top-[34px] w-24 print:static print:float-right print:bg-none bg-gradient-to-r from-transparent via-[var(--under,var(--sheet))] via-25% to-[var(--under,var(--sheet))] pr-5 text-right font-sans text-[12px] leading-[27px] ${change.afterFits ? "text-soft" : "font-bold text-magenta"}`}
      >
        {Math.round(change.afterSize)} {unit}
      </span>
    </div>
  );
}
