"use client";
import { type ProvedExtra } from "../../server/extras/extra-desk";
import { useId, useMemo, useRef, useState } from "react";
import { linesOf, type LinesOwner, withLine } from "../../core/design/change-rules";
import { kindIds, type ExtraName, type Kind } from "../../core/design/kinds";
import { IMAGE_FIELDS } from "../../core/lines/fields";
import { parseLine } from "../../core/lines/parse";
import { LineEditor } from "../line-editor/line-editor";
import { count, counted } from "../shell/format";
import { useSite, useKindWord } from "../shell/site-context";
import { siteStamp, pagesStamp } from "../shell/site-stamps";
import { knownFields } from "../line-editor/known-fields";
import { useCall } from "../shell/queries";
import { useDraftSaver } from "../shell/use-draft-saver";
import type { FieldInfo } from "../../server/bench/field-infos";

const LABELS: Record<ExtraName, string> = {
  alt: "Image descriptions",
  keywords: "Meta keywords",
  canonical: "Canonicals",
};

const IMAGE_INFOS = IMAGE_FIELDS.map(({ name, meaning }): FieldInfo => {
  const isNumber = name === "image.number";
  return { name, meaning, type: isNumber ? "number" : "text", filled: 1, distinct: 2, example: isNumber ? "1" : "" };
});
const NO_FIELDS: readonly FieldInfo[] = [];

/** The extra texts that the site has switched on: their lines, what they make, how many pages they are for. */
export function ExtraTexts({ extras }: { extras: readonly ExtraName[] }) {
  const { state } = useSite();
  const { answer: proved, error } = useCall("extras.prove", {}, siteStamp(state));
  return (
    <section aria-label="Extra texts" className="mt-6">
      {error && (
        <p role="alert" className="text-magenta">
          {error}
        </p>
      )}
      {extras.map((extra) => (
        <div key={extra} className="mb-4">
          <h2 className="border-b border-key pb-1 font-semibold">{LABELS[extra]}</h2>
          {kindIds(state.site)
            .filter((kind) => (state.counts[kind] ?? 0) > 0)
            .map((kind) => (
              <ExtraRow
                key={kind}
                kind={kind}
                extra={extra}
                proved={proved?.find((own) => own.kind === kind)?.extras[extra] ?? null}
              />
            ))}
        </div>
      ))}
    </section>
  );
}

function ExtraRow({ kind, extra, proved }: { kind: Kind; extra: ExtraName; proved: ProvedExtra | null }) {
  const kindWord = useKindWord();
  const { state } = useSite();
  const { saver, view } = useDraftSaver(kind);
  const { rules } = view.design;
  const { answer: ofPages } = useCall("bench.fields", { kind }, pagesStamp(state));
  const fields = useMemo(() => ofPages && (extra === "alt" ? [...IMAGE_INFOS, ...ofPages] : ofPages), [ofPages, extra]);
  // A rule whose line was just emptied keeps its editor until another one is begun.
  const [begun, setBegun] = useState<string | null>(null);
  const withLines = rules.filter((rule) => rule[extra] !== undefined || rule.id === begun);
  const others = rules.filter((rule) => !withLines.includes(rule));
  const label = `${LABELS[extra]} line for ${kindWord(kind, 2)}`;
  const lineOf = (owner: LinesOwner, name: string) => (
    <ExtraLine
      label={owner === "base" ? name : `${label}, rule ${name}`}
      line={linesOf(view.design, owner)[extra] ?? ""}
      fields={fields}
      onChange={(next) => saver.change(withLine(saver.current().design, owner, extra, next))}
    />
  );
  const figure =
    proved &&
    (extra === "alt"
      ? `${counted(proved.wanted, "image", "images")} on ${counted(proved.pages, "page", "pages")} without one`
      : counted(proved.pages, "page", "pages"));
  return (
    <div className="grid grid-cols-[112px_minmax(0,1.3fr)_minmax(0,1fr)_210px] small:grid-cols-1 small:gap-1 gap-4 border-b border-hair py-2">
      <h3 className="first-letter:uppercase">{kindWord(kind, 2)}</h3>
      <div className="min-w-0">
        {lineOf("base", label)}
        {withLines.map((rule) => (
          <div key={rule.id} className="mt-1">
            <p className={`text-[12px] text-soft ${rule.off ? "line-through" : ""}`}>Rule “{rule.name}”</p>
            {lineOf(rule.id, rule.name)}
          </div>
        ))}
        {others.length > 0 && (
          <select
            aria-label={`Another line for a rule’s ${kindWord(kind, 2)}: ${LABELS[extra]}`}
            value=""
            onChange={(event) => setBegun(event.target.value)}
            className="mt-1 max-w-full border-none bg-transparent text-[12px] text-soft hover:text-key"
          >
            <option value="">Another line for a rule’s pages …</option>
            {others.map((rule) => (
              <option key={rule.id} value={rule.id}>
                {rule.name}
              </option>
            ))}
          </select>
        )}
      </div>
      <p className="min-w-0 font-[family-name:var(--font-desktop)] text-soft">
        {proved?.examples.map((example) => (
          <span key={example.name} title={example.name} className="block truncate">
            {example.text}
          </span>
        ))}
      </p>
      <p className="narrow text-right text-[12.5px] text-soft">
        {figure}
        {proved && proved.filled > 0 && (
          <span className="block">
            <b className="text-key">{count(proved.filled)}</b> get one, <b className="text-key">{count(proved.same)}</b>{" "}
            like another’s, at most {count(proved.longest)} characters
          </span>
        )}
      </p>
    </div>
  );
}

/** One line with its own steps back and again. */
function ExtraLine({
  label,
  line,
  fields,
  onChange,
}: {
  label: string;
  line: string;
  fields: readonly FieldInfo[] | null;
  onChange: (line: string) => void;
}) {
  const id = useId();
  const known = useMemo(() => knownFields(fields ?? []), [fields]);
  const error = fields ? parseLine(line, known).errors[0] : undefined;
  const steps = useRef<{ back: string[]; again: string[] }>({ back: [], again: [] });
  const change = (next: string) => {
    steps.current = { back: [...steps.current.back, line], again: [] };
    onChange(next);
  };
  const step = (from: "back" | "again", to: "back" | "again") => {
    const before = steps.current[from].pop();
    if (before === undefined) return;
    steps.current[to].push(line);
    onChange(before);
  };
  return (
    <div className="bg-sheet px-1">
      <LineEditor
        label={label}
        value={line}
        fields={fields ?? NO_FIELDS}
        onChange={change}
        onUndo={() => step("back", "again")}
        onRedo={() => step("again", "back")}
        invalid={error !== undefined}
        describedBy={id}
        placeholder="No line: nothing is made. Type text, or { for a field"
      />
      <p id={id} role="status" className="px-0.5 text-[12px] text-magenta">
        {error ? `${error.message}; a line with an error is never applied` : ""}
      </p>
    </div>
  );
}
