"use client";
import { acceptCompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap, history, historyKeymap } from "@codemirror/commands";
import { Compartment, EditorState } from "@codemirror/state";
import { EditorView, keymap, placeholder } from "@codemirror/view";
import { useEffect, useRef } from "react";
import type { FieldInfo } from "../../server/proof-engine";
import { lineLanguage } from "./line-language";

/** One line of the line language, edited; line breaks that are pasted become spaces. */
export function LineEditor(props: { label: string; value: string; fields: readonly FieldInfo[]; onChange: (value: string) => void; onFocus: () => void; invalid: boolean; describedBy: string; autoFocus?: boolean }) {
  const holder = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const language = useRef(new Compartment());
  const latest = useRef(props);
  latest.current = props;

  useEffect(() => {
    const made = new EditorView({
      parent: holder.current!,
      state: EditorState.create({
        doc: latest.current.value,
        extensions: [
          history(),
          closeBrackets(),
          keymap.of([{ key: "Tab", run: acceptCompletion }, ...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...defaultKeymap.filter((binding) => binding.key !== "Enter" && binding.key !== "Mod-Enter")]),
          EditorState.transactionFilter.of((transaction) => {
            if (!transaction.docChanged || transaction.newDoc.lines === 1) return transaction;
            return [transaction, { changes: breaks(transaction.newDoc.toString()), sequential: true }];
          }),
          EditorView.contentAttributes.of({ "aria-label": latest.current.label, spellcheck: "false", "aria-describedby": latest.current.describedBy }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current.onChange(update.state.doc.toString());
            if (update.focusChanged && update.view.hasFocus) latest.current.onFocus();
          }),
          EditorView.lineWrapping,
          placeholder("No line: what the site has stays. Type text, or { for a field"),
          language.current.of(lineLanguage(latest.current.fields)),
        ],
      }),
    });
    view.current = made;
    if (latest.current.autoFocus) made.focus();
    return () => made.destroy();
  }, []);

  useEffect(() => {
    view.current?.dispatch({ effects: language.current.reconfigure(lineLanguage(props.fields)) });
  }, [props.fields]);

  useEffect(() => {
    const now = view.current?.state.doc.toString();
    if (view.current && now !== props.value) view.current.dispatch({ changes: { from: 0, to: now!.length, insert: props.value } });
  }, [props.value]);

  return <div ref={holder} className={`line-editor min-w-0 flex-1 ${props.invalid ? "line-invalid" : ""}`} />;
}

function breaks(text: string): { from: number; to: number; insert: string }[] {
  return [...text.matchAll(/\n/g)].map((match) => ({ from: match.index, to: match.index + 1, insert: " " }));
}
