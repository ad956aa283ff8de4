import { type ReactNode, useState } from "react";
import { type FindingId, FINDINGS, type Subject } from "../../core/checks/findings";
import { type Checks } from "../../core/checks/schema";
import { checkName } from "../../core/checks/settings";
import { ALL_PAGES } from "../../core/items/query";
import { SUBJECT_LABELS } from "../items/findings-panel";
import { counted } from "../shell/format";
import Link from "../shell/link";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";
import { INPUT, NumberInput, Section } from "./fields";
import { type SettingsPart } from "./settings-part";
import { Term } from "../shell/term";

/** What is looked for: each finding can be switched off, and those with a figure have it beside them. */
export function ChecksSection({ site, put, errors }: SettingsPart) {
  const { checks } = site;
  const found = useFound();
  const change = (part: Partial<Checks>) => put({ checks: { ...checks, ...part } });
  const toggle = (name: string) =>
    change({ off: checks.off.includes(name) ? checks.off.filter((own) => own !== name) : [...checks.off, name] });
  return (
    <Section id="checks" title="Checks" about="Set the limits your site goes by. A check that is off reports nothing.">
      {(Object.keys(FINDINGS) as Subject[]).map((subject) => (
        <fieldset key={subject} className="mb-5">
          <legend className="font-semibold">{SUBJECT_LABELS[subject]}</legend>
          <ul>
            {FINDINGS[subject].map((finding) => {
              const name = checkName(subject, finding.id);
              const figure = FIGURES[name];
              return (
                <li key={finding.id} className="flex items-baseline gap-3 border-b border-hair py-1">
                  <label className="flex min-w-0 flex-1 items-baseline gap-2">
                    <input type="checkbox" checked={!checks.off.includes(name)} onChange={() => toggle(name)} />
                    <span>
                      {finding.label} <span className="text-soft">{finding.why}</span>
                    </span>
                  </label>
                  {figure && <span className="flex shrink-0 items-center gap-1.5">{figure(checks, change)}</span>}
                  <Found subject={subject} id={finding.id} pages={found?.get(name) ?? null} />
                </li>
              );
            })}
          </ul>
        </fieldset>
      ))}
      <fieldset className="mb-5">
        <legend className="font-semibold">Links</legend>
        <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-hair py-1">
          <span>
            Link texts that say nothing <span className="text-soft">of where they lead, with commas between</span>
          </span>
          <WordList
            label="Link texts that say nothing, with commas between"
            width="w-full"
            words={checks.emptyLinkTexts}
            onChange={(emptyLinkTexts) => change({ emptyLinkTexts })}
          />
        </div>
      </fieldset>
      {[...errors]
        .filter(([path]) => path.startsWith("checks."))
        .map(([path, message]) => (
          <p key={path} role="alert" className="text-magenta">
            {path.slice(7)}: {message}
          </p>
        ))}
    </Section>
  );
}

/** The list's figures are of all pages, however few of them are shown. */
const ONE_PAGE = { query: ALL_PAGES as never, columns: [], from: 0, count: 1 };

/** How many pages have each finding on the live site, by the finding’s name; `null` until it is known. */
function useFound(): ReadonlyMap<string, number> | null {
  const { state } = useSite();
  const { answer } = useCall("items.list", ONE_PAGE, siteStamp(state));
  return answer && new Map(answer.counts.map(({ subject, id, live }) => [checkName(subject, id), live]));
}

/** Leads to the pages that have a finding. */
function Found({ subject, id, pages }: { subject: Subject; id: FindingId; pages: number | null }) {
  return (
    <span className="w-24 shrink-0 text-right tabular-nums">
      {pages !== null && pages > 0 && (
        <Link
          href={`/pages?findings=${subject}.${id}`}
          className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
        >
          {counted(pages, "page", "pages")}
        </Link>
      )}
    </span>
  );
}

type Figure = (checks: Checks, change: (part: Partial<Checks>) => void) => ReactNode;

const share = (value: number) => Math.round(value * 1000) / 10;

/** The figures of findings that have some, by the finding's name. */
const FIGURES: Readonly<Record<string, Figure>> = {
  "title too-short": (checks, change) => (
    <>
      under{" "}
      <NumberInput
        label="Fewest characters of a title"
        value={checks.shortTitle}
        onChange={(value) => change({ shortTitle: value! })}
      />{" "}
      characters
    </>
  ),
  "title too-many-characters": (checks, change) => (
    <>
      over{" "}
      <NumberInput
        label="Most characters of a title, as a finding"
        empty="none"
        min={1}
        value={checks.longTitle}
        onChange={(longTitle) => change({ longTitle })}
      />{" "}
      characters
    </>
  ),
  "description too-short": (checks, change) => (
    <>
      under{" "}
      <NumberInput
        label="Fewest characters of a description"
        value={checks.shortDescription}
        onChange={(value) => change({ shortDescription: value! })}
      />{" "}
      characters
    </>
  ),
  "description too-many-characters": (checks, change) => (
    <>
      over{" "}
      <NumberInput
        label="Most characters of a description, as a finding"
        empty="none"
        min={1}
        value={checks.longDescription}
        onChange={(longDescription) => change({ longDescription })}
      />{" "}
      characters
    </>
  ),
  "title near-duplicate": (checks, change) => (
    <>
      at least{" "}
      <NumberInput
        width="w-16"
        label="Share of the longer text's words that two texts share, in percent"
        min={80}
        value={share(checks.nearShare)}
        onChange={(value) => change({ nearShare: value! / 100 })}
      />{" "}
      % of the longer one’s words the same; descriptions too
    </>
  ),
  "title keyword-late": (checks, change) => (
    <>
      behind{" "}
      <NumberInput
        width="w-16"
        label="Share of the room in which the keyword begins, in percent"
        value={share(checks.lateShare)}
        onChange={(value) => change({ lateShare: value! / 100 })}
      />{" "}
      % of the <Term of="room">room</Term>, or word{" "}
      <NumberInput
        width="w-14"
        label="The word by which the keyword has begun"
        min={1}
        value={checks.lateWord}
        onChange={(value) => change({ lateWord: value! })}
      />
    </>
  ),
  "title keyword-repeated": (checks, change) => (
    <>
      more than{" "}
      <NumberInput
        width="w-14"
        label="How often a keyword may be used in a title"
        min={1}
        value={checks.keywordInTitle}
        onChange={(value) => change({ keywordInTitle: value! })}
      />{" "}
      times
    </>
  ),
  "description keyword-repeated": (checks, change) => (
    <>
      more than{" "}
      <NumberInput
        width="w-14"
        label="How often a keyword may be used in a description"
        min={1}
        value={checks.keywordInDescription}
        onChange={(value) => change({ keywordInDescription: value! })}
      />{" "}
      times
    </>
  ),
  "title site-name-needless": (checks, change) => (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        checked={checks.siteNameSearched}
        onChange={(event) => change({ siteNameSearched: event.target.checked })}
      />{" "}
      people search for it
    </label>
  ),
  "slug too-deep": (checks, change) => (
    <>
      under more than{" "}
      <NumberInput
        width="w-14"
        label="Most folders above a page"
        value={checks.depth}
        onChange={(value) => change({ depth: value! })}
      />{" "}
      folders
    </>
  ),
  "page keyword-too-often": (checks, change) => (
    <>
      over{" "}
      <NumberInput
        width="w-16"
        label="Share of a body's words that may be the keyword's, in percent"
        step={0.5}
        value={share(checks.keywordShare)}
        onChange={(value) => change({ keywordShare: value! / 100 })}
      />{" "}
      % of its words
    </>
  ),
  "page indexable-by-name": (checks, change) => (
    <WordList
      label="Names of pages that should not be indexed, with commas between"
      width="w-72"
      words={checks.unindexed}
      onChange={(unindexed) => change({ unindexed })}
    />
  ),
};

/** Words with commas between, as a person types them. */
function WordList({
  label,
  width,
  words,
  onChange,
}: {
  label: string;
  width: string;
  words: readonly string[];
  onChange: (words: string[]) => void;
}) {
  const [typed, setTyped] = useState(words.join(", "));
  return (
    <input
      aria-label={label}
      className={`${INPUT} ${width}`}
      value={typed}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange(
          event.target.value
            .split(",")
            .map((word) => word.trim())
            .filter(Boolean),
        );
      }}
    />
  );
}
