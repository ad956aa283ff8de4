import { type Kind, kindIds } from "../../core/design/kinds";
import { FIGURE_WORDS } from "../shell/figure-words";
import { useCall } from "../shell/queries";
import { useSite, useKindWord } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";
import { Section } from "./fields";
import { type SettingsPart } from "./settings-part";

/** How the fields of each kind write numbers and dates, whatever was found when they were brought in. */
export function FiguresSection({ site, put }: SettingsPart) {
  const { state } = useSite();
  const kinds = kindIds(state.site).filter((kind) => (state.counts[kind] ?? 0) > 0);
  return (
    <Section
      id="figures"
      title="Numbers and dates"
      about="How each field writes them, so that lines, conditions, sorting and filters read them right. Detected on import."
    >
      {kinds.map((kind) => (
        <KindFigures key={kind} kind={kind} site={site} put={put} />
      ))}
    </Section>
  );
}

interface WrittenField {
  readonly name: string;
  readonly example: string;
  readonly figures: "number" | "day";
}

function KindFigures({ kind, site, put }: Pick<SettingsPart, "site" | "put"> & { kind: Kind }) {
  const kindWord = useKindWord();
  const { state } = useSite();
  const { answer: fields } = useCall("bench.fields", { kind }, pagesStamp(state));
  const formats = site.formats[kind] ?? {};
  const own = (fields ?? []).flatMap(({ name, type, example }): WrittenField[] => {
    const { day, number } = formats[name] ?? {};
    // What can be read one way only is not asked about.
    if (day || (type === "date" && !/^\d{4}-/.test(example))) return [{ name, example, figures: "day" }];
    return number || (type === "number" && /[.,]/.test(example)) ? [{ name, example, figures: "number" }] : [];
  });
  if (own.length === 0) return null;
  const choose = (name: string, figures: "number" | "day", value: string) =>
    put({ formats: { ...site.formats, [kind]: { ...formats, [name]: { ...formats[name], [figures]: value } } } });
  return (
    <div className="mb-3">
      <h3 className="font-semibold first-letter:uppercase">{kindWord(kind, 2)}</h3>
      {own.map(({ name, example, figures }) => (
        <label key={name} className="grid grid-cols-[160px_160px_minmax(0,1fr)] items-baseline gap-3 py-1">
          <span className="break-words font-mono text-[12.5px]">{name}</span>
          <select
            aria-label={`How “${name}” of ${kindWord(kind, 2)} is written`}
            value={formats[name]?.[figures] ?? FIGURE_WORDS[figures][0][0]}
            onChange={(event) => choose(name, figures, event.target.value)}
            className="rounded-sm border border-edge bg-sheet px-1 py-0.5"
          >
            {FIGURE_WORDS[figures].map(([value, label]) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
          <span className="truncate text-soft">such as {example}</span>
        </label>
      ))}
    </div>
  );
}
