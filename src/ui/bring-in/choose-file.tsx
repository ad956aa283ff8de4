import { type ReactNode } from "react";
import type { FirstLook } from "../../server/exchange/bring-in";
import { PLAIN_ACTION } from "../shell/actions";

const DELIMITER_WORDS = { ",": "commas", ";": "semicolons", "\t": "tabs", "|": "bars" };

/** How a file was read, in words. */
function readAs({ source, encoding, delimiter }: FirstLook): string {
  if (source) return source.sheet === null ? source.type : `${source.type}, sheet “${source.sheet}”`;
  return `${encoding === "utf-8" ? "UTF-8" : encoding}, columns separated by ${DELIMITER_WORDS[delimiter]}`;
}

/** The place that a file is dropped on or chosen at, with the one that was. */
export function ChooseFile({
  look,
  isReading,
  isOver,
  onFile,
  children,
}: {
  look: FirstLook | null;
  isReading: boolean;
  /** Whether a file is held over the screen. */
  isOver: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  return (
    <div
      className={`mt-4 flex items-center gap-4 border border-dashed px-5 py-4 ${isOver ? "border-rule bg-cyan-pale" : "border-faint bg-sheet"}`}
    >
      <input
        id="file"
        type="file"
        accept=".csv,.tsv,.txt,.xlsx,.ods,.jsonl,.ndjson,.json,text/csv"
        className="sr-only"
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) onFile(file);
          // The same file can be chosen again, changed meanwhile.
          target.value = "";
        }}
      />
      <label htmlFor="file" className={`${PLAIN_ACTION} inline-block`}>
        Choose a file
      </label>
      <span className="text-soft" role="status">
        {isReading ? (
          "Reading the file …"
        ) : look ? (
          <>
            <b className="text-key">{look.file}</b>, {readAs(look)}
          </>
        ) : (
          "or drop it here, or paste a table that was copied from a spreadsheet"
        )}
      </span>
      {children}
    </div>
  );
}

/** Which sheet of a workbook is imported. */
export function ChooseSheet({
  sheets,
  sheet,
  isReading,
  onSheet,
}: {
  sheets: readonly string[];
  sheet: string | null;
  isReading: boolean;
  onSheet: (sheet: string) => void;
}) {
  return (
    <label className="ml-auto flex items-center gap-2">
      Sheet
      <select
        value={sheet ?? ""}
        disabled={isReading}
        onChange={(event) => onSheet(event.target.value)}
        className="rounded-sm border border-edge bg-sheet px-1 py-1 font-semibold"
      >
        {sheets.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
