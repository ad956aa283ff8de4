"use client";
import { useMemo, useState } from "react";
import type { TriedList } from "../../server/wire/try-connection";
import { PLAIN_ACTION } from "../shell/actions";
import { counted } from "../shell/format";
import { placeOf } from "./description";
import { RecordTree } from "./record-tree";
import { TriedFields } from "./tried-fields";

/** The first answer of a list: a raw record beside what is understood of it. */
export function TriedListView({
  tried,
  description,
  onPlace,
  onRemove,
}: {
  tried: TriedList;
  description: string;
  onPlace: (field: string, place: string) => void;
  onRemove: (field: string) => void;
}) {
  const [at, setAt] = useState(0);
  const [picking, setPicking] = useState<string | null>(null);
  const record = tried.records[Math.min(at, tried.records.length - 1)];
  const raw = useMemo(() => readRaw(record?.json), [record?.json]);
  return (
    <section aria-label="First answer">
      <p role="status">
        <b>{counted(tried.count, "record", "records")}</b> came from{" "}
        <span className="break-all font-mono text-[12px]">{tried.url}</span>.{" "}
        {tried.next === null ? "The list ends there." : <NextPlace next={tried.next} />}
      </p>
      {record && (
        <>
          <div className="mt-3 flex items-center gap-3">
            <button type="button" className={PLAIN_ACTION} disabled={at === 0} onClick={() => setAt(at - 1)}>
              Previous
            </button>
            <span>
              Record {at + 1} of {tried.records.length}
            </span>
            <button
              type="button"
              className={PLAIN_ACTION}
              disabled={at + 1 >= tried.records.length}
              onClick={() => setAt(at + 1)}
            >
              Next
            </button>
            {record.wrong !== null && (
              <span role="alert" className="font-semibold text-magenta">
                It could not be imported: {record.wrong}
              </span>
            )}
          </div>
          <div className="mt-3 grid grid-cols-2 gap-6 small:grid-cols-1">
            <section aria-label="What was understood" className="min-w-0">
              <h2 className="mb-1 font-bold">What was understood</h2>
              <TriedFields
                record={record}
                description={description}
                picking={picking}
                onPicking={setPicking}
                onPlace={onPlace}
                onRemove={onRemove}
              />
            </section>
            <section aria-label="The record as it came" className="min-w-0">
              <h2 className="mb-1 font-bold">The record as it came</h2>
              <p className="mb-1 text-[12px] text-soft">
                {picking === null
                  ? "Choose “Point at it” of a field, then click its value here."
                  : `Click the value of ${picking}.`}
              </p>
              <RecordTree
                record={raw}
                onPick={(path) => {
                  if (picking === null) return;
                  onPlace(picking, placeOf(raw, path));
                  setPicking(null);
                }}
              />
            </section>
          </div>
        </>
      )}
    </section>
  );
}

function NextPlace({ next }: { next: string }) {
  return (
    <>
      It continues at <span className="break-all font-mono text-[12px]">{next}</span>.
    </>
  );
}

function readRaw(json: string | undefined): unknown {
  try {
    return JSON.parse(json ?? "null");
  } catch {
    // A very long record is cut off for the screen.
    return json;
  }
}
