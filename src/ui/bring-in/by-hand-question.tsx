import type { ByHandChoice } from "../../core/infer/by-hand";

const BY_HAND_WORDS: Record<ByHandChoice, readonly [label: string, about: string]> = {
  unexplained: [
    "Only those that look written by hand",
    "texts that do not follow the pattern most pages of their kind share",
  ],
  all: ["All of them", "no line will replace a title, description or slug from this file"],
  none: ["None", "lines may replace any of them"],
};

/** Asks which of the texts that come in a person wrote. */
export function ByHandQuestion({
  choice,
  onChoose,
}: {
  choice: ByHandChoice;
  onChoose: (choice: ByHandChoice) => void;
}) {
  return (
    <fieldset className="mt-3 flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <legend className="float-left mr-4 font-bold">Were these texts written by hand?</legend>
      {(Object.entries(BY_HAND_WORDS) as [ByHandChoice, readonly [string, string]][]).map(([name, [label, about]]) => (
        <label key={name} className="flex items-baseline gap-2">
          <input type="radio" name="by-hand" checked={choice === name} onChange={() => onChoose(name)} />
          <span>
            {label} <span className="narrow text-[12px] text-soft">{about}</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
