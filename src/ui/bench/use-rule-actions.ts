"use client";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { linesOf, withoutRule, withRule, withRuleCopied, withRuleMoved } from "../../core/design/change-rules";
import { type KindDesign, type Rule } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { type SuggestedRule } from "../../core/design/rule-from-item";
import { type BenchView } from "./bench-codec";
import { type EditedRule } from "./rule-sheet";
import { type RuleActions } from "./rules-panel";
import { type Draft } from "./use-draft";

/** What can be done with the rules of a draft, and the one whose sheet is open. */
export function useRuleActions(
  { design, change, undo }: Draft,
  text: TextName,
  setView: (change: Partial<BenchView>) => void,
) {
  const [edited, setEdited] = useState<EditedRule | null>(null);
  const actions = useMemo((): RuleActions => {
    const nameOf = (id: string) => design.rules.find((rule) => rule.id === id)?.name ?? "";
    return {
      edit: (id) => {
        const place = design.rules.findIndex((rule) => rule.id === id);
        if (place >= 0) setEdited({ rule: design.rules[place]!, isNew: false, place });
      },
      move: (id, place) => change(withRuleMoved(design, id, place), `moved “${nameOf(id)}”`),
      copy: (id) => {
        const copy = crypto.randomUUID();
        change(withRuleCopied(design, id, copy), `duplicated “${nameOf(id)}”`);
        setView({ rule: copy });
      },
      toggle: (id) => {
        const rule = design.rules.find((own) => own.id === id)!;
        const { off, ...rest } = rule;
        change(withRule(design, off ? rest : { ...rest, off: true }), `switched “${rule.name}” ${off ? "on" : "off"}`);
      },
      remove: (id) => {
        change(withoutRule(design, id), `deleted “${nameOf(id)}”`);
        toast(`“${nameOf(id)}” is deleted`, { action: { label: "Undo", onClick: undo } });
      },
      add: () =>
        setEdited({
          rule: { id: crypto.randomUUID(), name: "", when: { all: [] }, ...startLine(design, "base", text) },
          isNew: true,
          place: 0,
        }),
    };
  }, [design, change, setView, undo, text]);
  /** Opens the sheet of a new rule that was suggested; it begins with the line of the owner that decides now. */
  const begin = ({ name, when }: SuggestedRule, owner: string) =>
    setEdited({
      rule: { id: crypto.randomUUID(), name, when, ...startLine(design, owner, text) },
      isNew: true,
      place: 0,
    });
  const save = (rule: Rule) => {
    const { place, isNew } = edited!;
    change(withRule(design, rule, place), isNew ? `made “${rule.name}”` : `edited the condition of “${rule.name}”`);
    setView({ rule: rule.id, pages: "own", item: null });
    setEdited(null);
  };
  return { actions, edited, begin, save, close: () => setEdited(null) };
}

/** The line that a new rule begins with, so that there is something to change: the one that decides now. */
function startLine(design: KindDesign, owner: string, text: TextName): Partial<Record<TextName, string>> {
  const line = linesOf(design, owner)[text] ?? design.base[text];
  return line === undefined ? {} : { [text]: line };
}
