"use client";
import { type ReactNode } from "react";
import { type Kind } from "../../core/design/kinds";
import { type Robots, ROBOTS } from "../../core/design/robots";
import { count } from "../shell/format";
import { useKindWord } from "../shell/site-context";

/** Above the lines: whose they are, the robots setting that goes with them, and what can be put into them. */
export function BenchHead({
  kind,
  kinds,
  counts,
  onKind,
  owner,
  robots,
  onRobots,
  children,
}: {
  kind: Kind;
  /** The kinds to choose from. */
  kinds: readonly Kind[];
  counts: Readonly<Record<Kind, number>>;
  onKind: (kind: Kind) => void;
  /** `base`, or the id of the rule whose lines are shown. */
  owner: string;
  robots: Robots | null;
  onRobots: (robots: Robots | null) => void;
  children: ReactNode;
}) {
  const kindWord = useKindWord();
  return (
    <div className="flex flex-wrap items-center gap-x-1 border-b border-hair bg-desk px-3 pt-1.5">
      <div role="tablist" aria-label="Kind of page" className="flex small:flex-wrap">
        {kinds.map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={name === kind}
            onClick={() => onKind(name)}
            className={`whitespace-nowrap rounded-t-sm px-3 py-1 ${name === kind ? "bg-sheet font-bold" : "text-soft hover:text-key"}`}
          >
            <span className="inline-block first-letter:uppercase">{kindWord(name, counts[name] === 1 ? 1 : 2)}</span>{" "}
            <span className="narrow text-[12px] text-soft">{count(counts[name] ?? 0)}</span>
          </button>
        ))}
      </div>
      <div className="mb-1 ml-auto flex items-center gap-2">
        <label className="flex items-center gap-1.5 text-[12px] text-soft">
          Robots
          <select
            aria-label="Robots setting"
            value={robots ?? ""}
            onChange={(event) => onRobots((event.target.value || null) as Robots | null)}
            className={`rounded-sm border bg-sheet px-1 py-0.5 text-[13px] text-key ${robots ? "border-key font-semibold" : "border-edge"}`}
          >
            <option value="">{owner === "base" ? "same as live" : "not set here"}</option>
            {ROBOTS.map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
        {children}
      </div>
    </div>
  );
}
