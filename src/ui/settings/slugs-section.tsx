import { SLASH_ENDS, type SlashEnd } from "../../core/addresses/address-targets";
import { useState } from "react";
import { INPUT, NumberInput, Section, Setting } from "./fields";
import { EditedMoves, PagesMoved } from "./pages-moved";
import { type SettingsPart } from "./settings-part";

const SLASH_WORDS: Record<SlashEnd, string> = {
  "as-it-is": "As the line and the page have it",
  always: "Always",
  never: "Never",
};

export function SlugsSection({ site, put, errors }: SettingsPart) {
  const slug = (change: Partial<typeof site.slug>) => put({ slug: { ...site.slug, ...change } });
  const [reserved, setReserved] = useState(site.reserved.join("\n"));
  const isRight = errors.size === 0;
  const check = (key: "dropStopWords" | "dropNumbers" | "keepUnicode", label: string) => {
    const isOn = site.slug[key];
    const other = { ...site, slug: { ...site.slug, [key]: !isOn } };
    return (
      <label className="flex items-baseline gap-2">
        <input type="checkbox" checked={isOn} onChange={(event) => slug({ [key]: event.target.checked })} />
        <span>
          {label} <PagesMoved from={site} to={isRight ? other : null} words={isOn ? "Switched off" : "Switched on"} />
        </span>
      </label>
    );
  };
  return (
    <Section
      id="slugs"
      title="Slugs and addresses"
      about="How a slug line’s result becomes a slug. How addresses are put together is a line on the Bench."
    >
      <EditedMoves site={site} isRight={isRight} />
      <div className="grid grid-cols-2 gap-x-6 gap-y-3 small:grid-cols-1">
        <div className="space-y-1.5">
          {check("dropStopWords", "Drop stop words (never all words)")}
          {check("dropNumbers", "Drop numbers (never all words)")}
          {check("keepUnicode", "Keep letters beyond ASCII")}
          <label className="flex items-baseline gap-2">
            <input
              type="checkbox"
              checked={site.dropQueries}
              onChange={(event) => put({ dropQueries: event.target.checked })}
            />{" "}
            Ignore the query: /rope?p=1 and /rope?p=2 are one page
          </label>
          <label className="flex items-center gap-2">
            At most{" "}
            <NumberInput
              label="Most characters of a slug"
              min={5}
              value={site.slug.max}
              onChange={(max) => slug({ max: max! })}
            />{" "}
            characters
          </label>
          {errors.get("slug.max") && (
            <p role="alert" className="text-magenta">
              {errors.get("slug.max")}
            </p>
          )}
        </div>
        <Setting
          label="Slash at the end of addresses"
          about="For addresses that an address line puts together; /page.html never has one"
        >
          <select
            className={INPUT}
            value={site.slashEnd}
            onChange={(event) => put({ slashEnd: event.target.value as SlashEnd })}
          >
            {SLASH_ENDS.map((end) => (
              <option key={end} value={end}>
                {SLASH_WORDS[end]}
              </option>
            ))}
          </select>
        </Setting>
        <Setting
          label="Reserved words, one per line"
          about="Slugs the site itself uses; a page with one gets a finding"
          error={[...errors].find(([path]) => path.startsWith("reserved"))?.[1]}
        >
          <textarea
            rows={4}
            className={`${INPUT} font-mono text-[12.5px]`}
            value={reserved}
            onChange={(event) => {
              setReserved(event.target.value);
              put({ reserved: event.target.value.split(/\s+/).filter(Boolean) });
            }}
          />
        </Setting>
      </div>
    </Section>
  );
}
