"use client";
import type { TriedRecord } from "../../server/wire/try-connection";
import { PLAIN_ACTION } from "../shell/actions";
import { INPUT } from "../settings/fields";
import { FIELD_NAMES, placeIn } from "./description";

/** Our fields, where each stands, and what the record says of it; one of them is the one that a click in the record is for. */
export function TriedFields({
  record,
  description,
  picking,
  onPicking,
  onPlace,
  onRemove,
}: {
  record: TriedRecord;
  description: string;
  /** The field whose place is being pointed at. */
  picking: string | null;
  onPicking: (field: string | null) => void;
  onPlace: (field: string, place: string) => void;
  onRemove: (field: string) => void;
}) {
  const known = new Set(record.fields.map(({ name }) => name));
  const others = FIELD_NAMES.filter((name) => !known.has(name));
  return (
    <>
      <table className="w-full table-fixed text-[12.5px]">
        <thead>
          <tr className="border-b border-key text-left">
            <th className="w-28 py-1 font-semibold">Field</th>
            <th className="w-[40%] py-1 font-semibold">Stands at</th>
            <th className="py-1 font-semibold">Is read as</th>
          </tr>
        </thead>
        <tbody>
          {record.fields.map(({ name, text, wrong }) => (
            <tr key={name} className={`border-b border-hair align-top ${picking === name ? "bg-cyan-pale" : ""}`}>
              <th scope="row" className="py-1.5 pr-2 text-left font-semibold">
                {name}
              </th>
              <td className="py-1 pr-2">
                <input
                  aria-label={`Where ${name} stands`}
                  className={`${INPUT} font-mono text-[12px]`}
                  value={placeIn(description, name) ?? ""}
                  onChange={(event) => onPlace(name, event.target.value)}
                />
                <span className="mt-1 flex gap-3 text-[12px]">
                  <button
                    type="button"
                    className="underline underline-offset-2"
                    aria-pressed={picking === name}
                    onClick={() => onPicking(picking === name ? null : name)}
                  >
                    {picking === name ? "Click its value in the record" : "Point at it"}
                  </button>
                  <button
                    type="button"
                    className="text-soft underline underline-offset-2"
                    onClick={() => onRemove(name)}
                  >
                    Remove<span className="sr-only"> {name}</span>
                  </button>
                </span>
              </td>
              <td className="break-words py-1.5">
                {wrong !== null ? (
                  <span className="font-semibold text-magenta">{wrong}</span>
                ) : text === null ? (
                  <span className="text-soft">not in this record</span>
                ) : text === "" ? (
                  <span className="text-soft">empty</span>
                ) : (
                  text.slice(0, 300)
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 flex flex-wrap gap-1.5">
        {others.map((name) => (
          <button
            key={name}
            type="button"
            className={`${PLAIN_ACTION} !px-2 !py-0.5 text-[12px]`}
            aria-pressed={picking === name}
            onClick={() => onPicking(name)}
          >
            + {name}
          </button>
        ))}
      </p>
    </>
  );
}
