"use client";
import { type Kind, kindIds, type KindInfo, kindsOf } from "../../core/design/kinds";
import { counted } from "../shell/format";
import { Later, useLater } from "../shell/later";
import { useSite } from "../shell/site-context";
import { type FileKinds, kindForWord, withChoice } from "./file-kinds";

/** Ids of new kinds are spelled in Latin letters, with large tables. */
const NEW_KIND = new Later(() => import("../../core/design/new-kind"));

const NEW = "+new";
const NONE = "";
const SELECT = "rounded-sm border border-edge bg-sheet px-1 py-1 font-semibold";

interface Choosing {
  kinds: FileKinds;
  onKinds: (kinds: FileKinds) => void;
}

/** Which kind all rows of a file are, one that the site gets among them. */
export function WholeKind({ kind, onKind, kinds, onKinds }: Choosing & { kind: Kind; onKind: (kind: Kind) => void }) {
  const { site } = useSite().state;
  const made = useLater(NEW_KIND, true);
  const { whole } = kinds;
  const choose = (value: string) => {
    if (value === NEW) {
      if (made) onKinds({ ...kinds, whole: made.newKind("place", kindIds(site)) });
    } else {
      onKinds({ ...kinds, whole: null });
      onKind(value);
    }
  };
  return (
    <div className="ml-auto flex flex-wrap items-baseline gap-3">
      <label className="flex items-baseline gap-2">
        All rows are
        <select value={whole ? NEW : kind} onChange={(event) => choose(event.target.value)} className={SELECT}>
          {kindsOf(site).map(({ id, many }) => (
            <option key={id} value={id}>
              {many}
            </option>
          ))}
          <option value={NEW} disabled={!made}>
            a new kind of page …
          </option>
        </select>
      </label>
      {whole && <KindNames kind={whole} onKind={(own) => onKinds({ ...kinds, whole: own })} />}
    </div>
  );
}

/** The words of a file’s column of kinds that the site has no kind for, and what each is. */
export function UnknownKinds({ kinds, onKinds }: Choosing) {
  const { site } = useSite().state;
  const made = useLater(NEW_KIND, kinds.words.length > 0);
  if (kinds.words.length === 0) return null;
  const choose = (word: string, value: string) => {
    if (value === NONE) return onKinds(withChoice(kinds, word, null));
    if (value === NEW) {
      if (made) onKinds(withChoice(kinds, word, { own: kindForWord(site, kinds, word, made.newKind) }));
    } else onKinds(withChoice(kinds, word, { known: value }));
  };
  return (
    <section aria-label="Kinds this site does not have" className="mt-3 border-l-4 border-rule bg-sheet px-4 py-2">
      <h2 className="font-bold">Kinds of page this site does not have yet</h2>
      <ul className="mt-1 space-y-1.5">
        {kinds.words.map(({ word, rows, choice }) => (
          <li key={word} className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
            <span className="min-w-[180px]">
              <b>{word}</b> <span className="text-soft">on {counted(rows, "row", "rows")}</span>
            </span>
            <select
              aria-label={`What “${word}” is`}
              value={choice === null ? NONE : "own" in choice ? NEW : choice.known}
              onChange={(event) => choose(word, event.target.value)}
              className={SELECT}
            >
              <option value={NONE}>not decided: its rows are rejected</option>
              <option value={NEW} disabled={!made}>
                a new kind of page
              </option>
              {kindsOf(site).map(({ id, many }) => (
                <option key={id} value={id}>
                  another name for {many}
                </option>
              ))}
            </select>
            {choice !== null && "own" in choice && (
              <KindNames kind={choice.own} onKind={(own) => onKinds(withChoice(kinds, word, { own }))} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What one page of a new kind is called, and several. Taken when the field is left: the file is read again for it. */
function KindNames({ kind, onKind }: { kind: KindInfo; onKind: (kind: KindInfo) => void }) {
  const field = (part: "one" | "many", label: string) => (
    <label className="flex items-baseline gap-2 text-soft">
      {label}
      <input
        key={kind[part]}
        defaultValue={kind[part]}
        maxLength={60}
        className="w-[130px] rounded-sm border border-edge bg-sheet px-1.5 py-0.5 text-key"
        onBlur={(event) => {
          const value = event.target.value.trim();
          if (value === "") event.target.value = kind[part];
          else if (value !== kind[part]) onKind({ ...kind, [part]: value });
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
  return (
    <>
      {field("one", "one is a")}
      {kind.isSingle ? null : field("many", "several are")}
      <label className="flex items-baseline gap-1.5 text-soft">
        <input
          type="checkbox"
          checked={kind.isSingle}
          onChange={(event) => onKind({ ...kind, isSingle: event.target.checked })}
        />
        there is only one
      </label>
    </>
  );
}
