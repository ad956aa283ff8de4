"use client";
import { sitePath } from "../shell/site-path";
import { useRef, useState } from "react";
import { toast } from "sonner";
import type { KeywordMapping, KeywordsLook } from "../../server/keywords/bring-keywords";
import { call, sendFile } from "../shell/api";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";

const MOST_BYTES = 200 * 1024 * 1024;

/** A list of keywords, as a file or pasted: looked at, its columns chosen, brought in. */
export function BringList({ onClose, onBrought }: { onClose: () => void; onBrought: () => void }) {
  const [pasted, setPasted] = useState("");
  const [look, setLook] = useState<KeywordsLook | null>(null);
  const [mapping, setMapping] = useState<KeywordMapping | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const failed = (e: unknown) => {
    setBusy(null);
    setError(e instanceof Error ? e.message : String(e));
  };
  const turn = useRef(0);
  const send = async (body: Blob) => {
    const own = ++turn.current;
    setError(null);
    setBusy(null);
    if (body.size > MOST_BYTES)
      return setError(
        `The file is ${Math.round(body.size / 1024 / 1024)} MB large; at most ${MOST_BYTES / 1024 / 1024} MB are allowed. Remove columns you do not need.`,
      );
    setBusy("Reading it …");
    try {
      const answer = await sendFile<KeywordsLook>(sitePath("/api/files/keywords"), body);
      // Another file may have been chosen meanwhile.
      if (own !== turn.current) return;
      setLook(answer);
      setMapping(answer.guess);
      setBusy(null);
    } catch (e) {
      if (own === turn.current) failed(e);
    }
  };
  const bring = async () => {
    setBusy("Importing …");
    try {
      const brought = await call("keywords.bringIn", { token: look!.token, mapping: mapping! });
      toast(
        `${counted(brought.added, "keyword", "keywords")} added, ${count(brought.updated)} updated${brought.left > 0 ? `, ${counted(brought.left, "row", "rows")} without a keyword left out` : ""}`,
      );
      onBrought();
      onClose();
    } catch (e) {
      failed(e);
    }
  };
  const clear = () =>
    call("keywords.clear", {})
      .then(({ cleared }) => {
        toast(`${counted(cleared, "keyword", "keywords")} removed from the list; pages keep theirs`);
        onBrought();
      })
      .catch(failed);
  return (
    <aside
      aria-label="Import a keyword list"
      className="desk-side min-h-0 overflow-auto border-l border-key bg-sheet px-4 pb-4 pt-3"
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <button
        type="button"
        onClick={onClose}
        className="float-right text-soft underline decoration-hair underline-offset-4 hover:text-key"
      >
        Close
      </button>
      <h2 className="text-[15px] font-bold">Import a list</h2>
      {!look ? (
        <>
          <p className="mt-1 text-soft">
            One keyword per line, with its search volume and anything else you know about it. CSV, or pasted from a
            spreadsheet.
          </p>
          <label className={`${PLAIN_ACTION} mt-3 inline-block focus-within:outline-2 focus-within:outline-rule`}>
            Choose a file
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv,text/plain"
              className="sr-only"
              onChange={(event) => event.target.files?.[0] && void send(event.target.files[0])}
            />
          </label>
          <label className="mt-3 block">
            <span className="text-[12px] text-soft">Or paste it</span>
            <textarea
              autoFocus
              rows={12}
              value={pasted}
              onChange={(event) => setPasted(event.target.value)}
              className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1 font-mono text-[12.5px]"
            />
          </label>
          <div className="mt-2 flex gap-2">
            <button
              type="button"
              className={PLAIN_ACTION}
              disabled={pasted.trim() === "" || busy !== null}
              onClick={() => void send(new Blob([pasted]))}
            >
              Preview
            </button>
            <button type="button" className={PLAIN_ACTION} onClick={() => void clear()}>
              Clear the list
            </button>
          </div>
        </>
      ) : (
        mapping && (
          <>
            <Column
              label="The keyword is in"
              value={mapping.keyword}
              look={look}
              mapping={mapping}
              onChange={(keyword) => setMapping({ ...mapping, keyword: keyword ?? 0 })}
            />
            <Column
              label="Search volume is in"
              none="no column"
              value={mapping.volume}
              look={look}
              mapping={mapping}
              onChange={(volume) => setMapping({ ...mapping, volume })}
            />
            <label className="mt-3 flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={mapping.firstToo}
                onChange={(event) => setMapping({ ...mapping, firstToo: event.target.checked })}
              />{" "}
              The first line is a keyword, not a heading
            </label>
            <table className="mt-3 w-full table-fixed border-t border-key text-[12.5px]">
              <tbody>
                {[...(mapping.firstToo ? [look.header] : []), ...look.rows].map((cells, i) => (
                  <tr key={i} className="border-b border-hair">
                    <td className="truncate py-1 pr-2">
                      {cells[mapping.keyword] ? (
                        <mark className="marker px-0.5 text-inherit">{cells[mapping.keyword]}</mark>
                      ) : (
                        <span className="text-magenta">nothing</span>
                      )}
                    </td>
                    <td className="w-24 truncate py-1 text-right">
                      {mapping.volume === null ? "" : cells[mapping.volume]}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <div className="mt-3 flex gap-2">
              <button type="button" className={PLAIN_ACTION} disabled={busy !== null} onClick={() => void bring()}>
                Add to the list
              </button>
              <button type="button" className={PLAIN_ACTION} disabled={busy !== null} onClick={() => setLook(null)}>
                Choose another list
              </button>
            </div>
          </>
        )
      )}
      {busy && (
        <p role="status" className="mt-3 text-soft">
          {busy}
        </p>
      )}
      {error && (
        <p role="alert" className="mt-3 text-magenta">
          {error}
        </p>
      )}
    </aside>
  );
}

function Column({
  label,
  none,
  value,
  look,
  mapping,
  onChange,
}: {
  label: string;
  none?: string;
  value: number | null;
  look: KeywordsLook;
  mapping: KeywordMapping;
  onChange: (value: number | null) => void;
}) {
  return (
    <label className="mt-3 block">
      <span className="text-[12px] text-soft">{label}</span>
      <select
        value={value ?? ""}
        onChange={(event) => onChange(event.target.value === "" ? null : Number(event.target.value))}
        className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
      >
        {none !== undefined && <option value="">{none}</option>}
        {look.header.map((name, i) => (
          <option key={i} value={i}>
            {mapping.firstToo || name === "" ? `column ${i + 1}` : name}
          </option>
        ))}
      </select>
    </label>
  );
}
