"use client";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import type { CallInput } from "../../server/api/contract";
import type { FieldInfo } from "../../server/bench/field-infos";
import { fieldOfColumn, OUT_FORMATS, type OutColumn, type OutFileFormat } from "../../core/items/taken-out";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { call, wordsOf } from "../shell/api";
import { count, counted } from "../shell/format";
import { sitePath } from "../shell/site-path";
import { browserStorage } from "../shell/site-storage";
import { type ItemsView } from "./items-url";
import {
  columnsOfShape,
  FIRST_OUT,
  namedOnce,
  namesOf,
  OUT_CHOICES,
  type OutChoice,
  type OutChoiceShape,
  outQuery,
  readOutChoice,
} from "./out-choice";

const SHAPE_WORDS: Record<OutChoiceShape, readonly [label: string, about: string]> = {
  list: ["The list as it stands", "its columns in its order"],
  wide: ["One row per page", "texts before and after"],
  long: ["One row per change", "only what the drafts change"],
};
const FORMAT_WORDS: Record<OutFileFormat, string> = { csv: "CSV", jsonl: "JSON Lines", xlsx: "XLSX" };
const KEPT = "exported";

/** Takes the pages of the list out as a file: which columns, under which names, in which shape. What was chosen is there the next time. */
export function TakeOutDialog({
  view,
  total,
  fields,
  onClose,
}: {
  view: ItemsView;
  total: number;
  /** What else pages have. */
  fields: readonly FieldInfo[];
  onClose: () => void;
}) {
  const [choice, setChoice] = useState<OutChoice>(() => readOutChoice(browserStorage()?.getItem(KEPT) ?? null));
  const change = (part: Partial<OutChoice>) => setChoice((old) => ({ ...old, ...part }));
  const { wrong, columns: named } = namesOf(choice, view);
  const shape = choice.shape === "list" ? null : choice.shape;
  const { making, pages, error, make } = useMaking();
  const take = async () => {
    browserStorage()?.setItem(KEPT, JSON.stringify(choice));
    const made = await make(outQuery(choice, view));
    if (made === null) return;
    window.location.assign(
      sitePath(`/api/out/pages?${new URLSearchParams({ made, shape: shape ?? "wide", format: choice.format })}`),
    );
    onClose();
  };
  const put = (column: OutColumn, name: string | null) => {
    if (shape) change({ columns: { ...choice.columns, [shape]: { ...choice.columns[shape], [column]: name } } });
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-14 z-50 max-h-[calc(100vh-4.5rem)] w-[660px] max-w-[calc(100vw-1.5rem)] -translate-x-1/2 overflow-auto rounded-sm border border-key bg-sheet p-5 shadow-[6px_6px_0_rgb(20_33_42/0.25)]"
        >
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (wrong === null && !making) void take();
            }}
          >
            <Dialog.Title className="text-[18px] font-bold">
              Export {counted(total, "page", "pages")} of the list
            </Dialog.Title>
            <Choices
              label="Rows"
              name="shape"
              values={OUT_CHOICES}
              value={choice.shape}
              words={(shape) => SHAPE_WORDS[shape]}
              onChoose={(shape) => change({ shape })}
            />
            <Choices
              label="File"
              name="format"
              values={OUT_FORMATS}
              value={choice.format}
              words={(format) => [FORMAT_WORDS[format], ""]}
              onChoose={(format) => change({ format })}
            />
            <div className="mt-3 flex flex-wrap gap-x-6 gap-y-2">
              {choice.shape === "wide" && (
                <Switch
                  label="Only pages the drafts change"
                  checked={choice.onlyDiffering}
                  onChange={(onlyDiffering) => change({ onlyDiffering })}
                />
              )}
              <Switch
                label="Full addresses"
                checked={choice.fullAddresses}
                onChange={(fullAddresses) => change({ fullAddresses })}
              />
              {choice.format === "csv" && (
                <Switch
                  label="For programs, not spreadsheets: cells exactly as stored"
                  checked={choice.exact}
                  onChange={(exact) => change({ exact })}
                />
              )}
            </div>
            {shape === null ? (
              <p className="mt-4">
                <b>Columns:</b> {named.map(({ name }) => name).join(", ")}
              </p>
            ) : (
              <fieldset className="mt-4">
                <legend className="font-semibold">Columns, and their names in the file</legend>
                <div className="mt-1 grid grid-cols-2 gap-x-5 gap-y-1 small:grid-cols-1">
                  {columnsOfShape(shape, choice.columns[shape]).map((column) => (
                    <ColumnName
                      key={column}
                      column={column}
                      name={choice.columns[shape][column] ?? null}
                      onName={put}
                    />
                  ))}
                </div>
                {shape === "wide" && (
                  <AddField
                    fields={fields.filter(({ name }) => !(`field:${name}` in choice.columns.wide))}
                    onAdd={(field) => put(`field:${field}`, namedOnce(`field:${field}`).name)}
                  />
                )}
              </fieldset>
            )}
            {(wrong ?? error) && (
              <p role="alert" className="mt-3 text-magenta">
                {wrong ?? error}
              </p>
            )}
            <p role="status" className="mt-3 h-5 text-soft">
              {making && `Writing the file: ${count(Math.min(pages, total))} of ${counted(total, "page", "pages")} …`}
            </p>
            <div className="mt-2 flex gap-2">
              <button type="submit" className={MAIN_ACTION} disabled={wrong !== null || making}>
                Export
              </button>
              <button type="button" className={PLAIN_ACTION} onClick={onClose}>
                {making ? "Stop" : "Cancel"}
              </button>
              <button type="button" className={`${PLAIN_ACTION} ml-auto`} onClick={() => setChoice(FIRST_OUT)}>
                Reset
              </button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** Has the server make a file; closing the dialog stops it. */
function useMaking() {
  const [making, setMaking] = useState(false);
  const [pages, setPages] = useState(0);
  const [error, setError] = useState<string | null>(null);
  const under = useRef<AbortController | null>(null);
  useEffect(() => () => under.current?.abort(), []);
  /** @returns the file's token; `null` where none was made. */
  const make = async (asked: CallInput<"exchange.takeOutPages">): Promise<string | null> => {
    setMaking(true);
    setPages(0);
    setError(null);
    const gone = (under.current = new AbortController());
    const onProgress = (done: never) => setPages(done);
    try {
      return (await call("exchange.takeOutPages", asked, { signal: gone.signal, onProgress })).token;
    } catch (e) {
      if (!gone.signal.aborted) setError(wordsOf(e));
      return null;
    } finally {
      setMaking(false);
    }
  };
  return { making, pages, error, make };
}

function Choices<T extends string>({
  label,
  name,
  values,
  value,
  words,
  onChoose,
}: {
  label: string;
  name: string;
  values: readonly T[];
  value: T;
  words: (value: T) => readonly [label: string, about: string];
  onChoose: (value: T) => void;
}) {
  return (
    <fieldset className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
      <legend className="float-left mr-4 w-16 font-semibold">{label}</legend>
      {values.map((own) => (
        <label key={own} className="flex items-baseline gap-2">
          <input type="radio" name={name} checked={own === value} onChange={() => onChoose(own)} />
          <span>
            {words(own)[0]} <span className="narrow text-[12px] text-soft">{words(own)[1]}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}

function Switch({ label, checked, onChange }: { label: string; checked: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex items-baseline gap-2">
      <input type="checkbox" checked={checked} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}

/** Any field that pages have can be a column, too. */
function AddField({ fields, onAdd }: { fields: readonly FieldInfo[]; onAdd: (field: string) => void }) {
  if (fields.length === 0) return null;
  return (
    <select
      aria-label="Add a field of the pages"
      value=""
      onChange={(event) => onAdd(event.target.value)}
      className="mt-2 rounded-sm border border-edge bg-sheet px-1 py-1"
    >
      <option value="">Add a field …</option>
      {fields.map(({ name }) => (
        <option key={name} value={name}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** A column: whether the file has it, and under which name. */
function ColumnName({
  column,
  name,
  onName,
}: {
  column: OutColumn;
  name: string | null;
  onName: (column: OutColumn, name: string | null) => void;
}) {
  return (
    <div className="flex min-h-[28px] items-center gap-2">
      <label className="flex w-44 shrink-0 items-baseline gap-2 font-mono text-[12.5px]">
        <input
          type="checkbox"
          checked={name !== null}
          onChange={(event) => onName(column, event.target.checked ? namedOnce(column).name : null)}
        />
        {fieldOfColumn(column) ?? column}
      </label>
      {name !== null && (
        <input
          aria-label={`Name in the file for ${fieldOfColumn(column) ?? column}`}
          value={name}
          onChange={(event) => onName(column, event.target.value)}
          className="min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-1.5 py-0.5 text-[13px]"
        />
      )}
    </div>
  );
}
