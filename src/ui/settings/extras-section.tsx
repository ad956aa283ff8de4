import { EXTRAS, type ExtraName } from "../../core/design/kinds";
import { Section } from "./fields";
import { type SettingsPart } from "./settings-part";

const ABOUT: Record<ExtraName, readonly [string, string]> = {
  alt: ["Image descriptions (alt)", "for images in a page's body that have none"],
  keywords: ["Meta keywords", "for those who still send them"],
  canonical: ["Canonicals", "for pages whose canonical is another page’s address: a path, or a whole address"],
};

export function ExtrasSection({ site, put }: SettingsPart) {
  return (
    <Section
      id="extras"
      title="Extra texts"
      about="Written by lines like titles are, below them on the Board. Off by default."
    >
      {EXTRAS.map((extra) => (
        <label key={extra} className="flex items-baseline gap-2 py-1.5">
          <input
            type="checkbox"
            checked={site.extras[extra]}
            onChange={(event) => put({ extras: { ...site.extras, [extra]: event.target.checked } })}
          />
          <span>
            {ABOUT[extra][0]} <span className="text-soft">{ABOUT[extra][1]}</span>
          </span>
        </label>
      ))}
    </Section>
  );
}
