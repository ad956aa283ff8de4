"use client";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { type KindDesign, type Rule } from "../../core/design/design";
import { type Kind, TEXTS } from "../../core/design/kinds";
import { readCondition, writeCondition } from "../../core/rules/condition";
import type { RawCondition } from "../../core/rules/condition-shape";
import { conditionWords } from "../../core/rules/words";
import type { FieldInfo } from "../../server/bench/field-infos";
import type { ConditionPreview } from "../../server/workspace/kind-rules";
import { PLAIN_ACTION } from "../shell/actions";
import { count, counted } from "../shell/format";
import { ConditionEditor } from "../conditions/condition-editor";
import { type ConditionDraft, conditionOf, draftOf } from "../conditions/condition-draft";
import { useCall } from "../shell/queries";
import { useSite, useKindWord } from "../shell/site-context";
import { pagesStamp } from "../shell/site-stamps";
import { capital } from "../../core/text/capital";

/** A rule that is put together in the sheet; `place` is where a new one will stand, from 0. */
export interface EditedRule {
  readonly rule: Rule;
  readonly isNew: boolean;
  readonly place: number;
}

/** What a rule is called and takes, put together at the side, with what it would take shown before it is saved. */
export function RuleSheet(props: {
  kind: Kind;
  edited: EditedRule;
  design: KindDesign;
  fields: readonly FieldInfo[];
  onSave: (rule: Rule) => void;
  onClose: () => void;
}) {
  const { kind, edited, design, fields } = props;
  const [name, setName] = useState(edited.rule.name);
  const [draft, setDraft] = useState<ConditionDraft>(() => draftOf(readCondition(edited.rule.when)));
  const made = conditionOf(draft);
  const when = "condition" in made ? writeCondition(made.condition) : null;
  const preview = usePreview(kind, design, when, edited);
  const words = "condition" in made ? conditionWords(made.condition) : "";
  const save = () => {
    if (when) props.onSave({ ...edited.rule, name: name.trim() || capital(words).slice(0, 80), when });
  };
  return (
    <Dialog.Root open modal={false} onOpenChange={(open) => !open && props.onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onInteractOutside={(event) => event.preventDefault()}
          className="fixed bottom-0 left-[214px] top-11 z-30 flex w-[560px] max-w-[calc(100vw-214px)] flex-col small:inset-0 small:w-full small:max-w-none border-r border-key bg-sheet shadow-[6px_0_0_rgb(20_33_42/0.14)]"
        >
          <form
            className="flex min-h-0 flex-1 flex-col"
            onSubmit={(event) => {
              event.preventDefault();
              save();
            }}
          >
            <div className="border-b border-hair px-5 pb-3 pt-4">
              <Dialog.Title className="text-[16px] font-bold">
                {edited.isNew ? "New rule" : "Edit the condition"}
              </Dialog.Title>
              <label className="mt-2 block">
                <span className="text-[12px] text-soft">Name</span>
                <input
                  value={name}
                  onChange={(event) => setName(event.target.value)}
                  maxLength={200}
                  placeholder={words === "" ? "such as: Rope sold by the metre" : capital(words)}
                  className="block w-full rounded-sm border border-edge bg-sheet px-2 py-1"
                />
              </label>
            </div>
            <div className="min-h-0 flex-1 overflow-auto px-5 py-3">
              <ConditionEditor kind={kind} fields={fields} draft={draft} onChange={setDraft} />
              <section aria-label="Pages it would match" aria-live="polite" className="mt-5 border-t border-hair pt-3">
                {"missing" in made ? (
                  <p className="text-soft">Incomplete: {made.missing}</p>
                ) : (
                  <Preview kind={kind} preview={preview} place={edited.place} />
                )}
              </section>
            </div>
            <div className="flex items-center gap-2 border-t border-hair px-5 py-3">
              <button
                type="submit"
                disabled={!when}
                className="whitespace-nowrap rounded-sm bg-key px-3 py-1 font-semibold text-sheet disabled:bg-hair disabled:text-faint"
              >
                {edited.isNew ? "Create the rule" : "Save"}
              </button>
              <Dialog.Close className={`${PLAIN_ACTION} whitespace-nowrap`}>Cancel</Dialog.Close>
              {edited.isNew && (
                <span className="text-[12px] text-soft">
                  {edited.place === 0 ? "It goes first, above all others" : `It goes to position ${edited.place + 1}`}
                  {TEXTS.some((text) => edited.rule[text]) ? "; it starts with the line these pages have now" : ""}
                </span>
              )}
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Preview({ kind, preview, place }: { kind: Kind; preview: PreviewState; place: number }) {
  const kindWord = useKindWord();
  if (preview.error !== null) return <p className="text-magenta">{preview.error}</p>;
  if (!preview.answer) return <p className="text-soft">Loading …</p>;
  const { matches, free, total, examples } = preview.answer;
  return (
    <div className={preview.stale ? "opacity-60" : ""}>
      <p>
        <b className="text-[20px]" data-preview={matches}>
          {count(matches)}
        </b>{" "}
        of {counted(total, kindWord(kind, 1), kindWord(kind, 2))}{" "}
        {matches === 0 && <span className="text-magenta">– no page matches</span>}
      </p>
      {place > 0 && matches > 0 && (
        <p className={free === 0 ? "text-magenta" : "text-soft"}>
          {free === matches
            ? "No rule above matches any of them"
            : free === 0
              ? "Rules above match all of them: this one would never apply"
              : `Rules above match ${count(matches - free)}; ${count(free)} remain for this one`}
        </p>
      )}
      <ul className="mt-2 text-soft">
        {examples.map((item) => (
          <li key={item.id} className="truncate border-b border-hair py-0.5">
            {item.name}
          </li>
        ))}
      </ul>
    </div>
  );
}

interface PreviewState {
  readonly answer: ConditionPreview | null;
  readonly stale: boolean;
  readonly error: string | null;
}

function usePreview(kind: Kind, design: KindDesign, when: RawCondition | null, edited: EditedRule): PreviewState {
  const { state } = useSite();
  const texts = TEXTS.filter((text) => edited.rule[text]?.trim());
  const asked = when && { kind, design, when, above: edited.place, texts };
  const { answer, isCurrent, error } = useCall("bench.preview", asked, pagesStamp(state));
  return { answer, stale: !isCurrent, error };
}
