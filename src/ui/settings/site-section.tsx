import { useState } from "react";
import { LANGUAGES } from "../../core/text/languages";
import { INPUT, Section, Setting } from "./fields";
import { type SettingsPart } from "./settings-part";

export function SiteSection({ site, put, errors }: SettingsPart) {
  const [fixedWords, setFixedWords] = useState(site.fixedWords.join("\n"));
  return (
    <Section id="site" title="The site" about="Used in lines as {site}, {tagline} and {sep}.">
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
        <Setting label="Name" error={errors.get("name")}>
          <input
            className={INPUT}
            value={site.name}
            maxLength={200}
            onChange={(event) => put({ name: event.target.value })}
          />
        </Setting>
        <Setting label="Tagline" error={errors.get("tagline")}>
          <input
            className={INPUT}
            value={site.tagline}
            maxLength={400}
            onChange={(event) => put({ tagline: event.target.value })}
          />
        </Setting>
        <Setting
          label="Base address"
          about="Shown in previews, and added to exported paths"
          error={errors.get("baseUrl")}
        >
          <input
            className={INPUT}
            type="url"
            value={site.baseUrl}
            maxLength={400}
            placeholder="https://"
            onChange={(event) => put({ baseUrl: event.target.value })}
          />
        </Setting>
        <Setting
          label="Words that keep their spelling, one per line"
          about="Names, units and abbreviations that “calm” and “sentence” leave as they are: DN50, LED, Lantern"
          error={[...errors].find(([path]) => path.startsWith("fixedWords"))?.[1]}
        >
          <textarea
            rows={2}
            className={INPUT}
            value={fixedWords}
            onChange={(event) => {
              setFixedWords(event.target.value);
              put({ fixedWords: event.target.value.split(/\s+/).filter(Boolean) });
            }}
          />
        </Setting>
        <div className="grid grid-cols-2 gap-x-6">
          <Setting label="Separator" error={errors.get("sep")}>
            <input
              className={INPUT}
              value={site.sep}
              maxLength={20}
              onChange={(event) => put({ sep: event.target.value })}
            />
          </Setting>
          <Setting label="Language" about="For word forms, stop words, slugs, numbers and dates">
            <select
              className={INPUT}
              value={LANGUAGES.some(({ tag }) => tag === site.language) ? site.language : site.language.split("-")[0]}
              onChange={(event) => put({ language: event.target.value })}
            >
              {LANGUAGES.map(({ tag, label }) => (
                <option key={tag} value={tag}>
                  {label}
                </option>
              ))}
            </select>
          </Setting>
        </div>
      </div>
    </Section>
  );
}
