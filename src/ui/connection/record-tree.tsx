"use client";
import { type ReactNode } from "react";
import { SIDEWAYS } from "../shell/sideways";

type Step = string | number;

/** A record as it came, with each of its values to be clicked. What the site says is text, never markup. */
export function RecordTree({ record, onPick }: { record: unknown; onPick: (path: readonly Step[]) => void }) {
  return (
    <div className={`${SIDEWAYS} font-mono text-[12px] leading-[1.6]`}>
      <Value value={record} path={[]} onPick={onPick} />
    </div>
  );
}

const MOST_SHOWN = 160;

function Value({
  value,
  path,
  onPick,
}: {
  value: unknown;
  path: readonly Step[];
  onPick: (path: readonly Step[]) => void;
}): ReactNode {
  if (
    typeof value !== "object" ||
    value === null ||
    (Array.isArray(value) && value.every((own) => typeof own !== "object"))
  ) {
    const text = JSON.stringify(value) ?? "";
    return (
      <button
        type="button"
        className="max-w-full break-all rounded-sm text-left text-key underline decoration-dotted underline-offset-2 hover:bg-cyan-pale"
        onClick={() => onPick(path)}
        title={text.length > MOST_SHOWN ? text.slice(0, 2000) : undefined}
      >
        {text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)} …` : text}
      </button>
    );
  }
  const entries: [Step, unknown][] = Array.isArray(value) ? value.map((own, i) => [i, own]) : Object.entries(value);
  return (
    <ul className={path.length > 0 ? "border-l border-hair pl-3" : ""}>
      {entries.map(([step, own]) => (
        <li key={step}>
          <span className="text-soft">{step}: </span>
          <Value value={own} path={[...path, step]} onPick={onPick} />
        </li>
      ))}
    </ul>
  );
}
