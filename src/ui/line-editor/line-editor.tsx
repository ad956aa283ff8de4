"use client";
import { acceptCompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap } from "@codemirror/commands";
import { Compartment, EditorState } from "@codemirror/state";
import { EditorView, keymap, placeholder } from "@codemirror/view";
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { FieldInfo } from "../../server/bench/field-infos";
import { lineLanguage } from "./line-language";
import { StaticLine } from "./static-line";

/** One line of the line language, edited; line breaks that are pasted become spaces. */
export function LineEditor(props: {
  label: string;
  value: string;
  fields: readonly FieldInfo[];
  onChange: (value: string) => void;
  /** The line is clicked or typed in; going through it with Tab chooses nothing. */
  onChoose?: (() => void) | undefined;
  onUndo: () => void;
  onRedo: () => void;
  invalid: boolean;
  describedBy: string;
  placeholder: string;
  insertAt?: RefObject<((text: string, cursor?: number) => void) | null> | undefined;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const [isThere, setThere] = useState(false);
  const view = useRef<EditorView | null>(null);
  const language = useRef(new Compartment());
  const hint = useRef(new Compartment());
  const latest = useRef(props);
  latest.current = props;

  // Before anything is drawn: the line stands in its place already.
  useLayoutEffect(() => {
    const made = new EditorView({
      parent: holder.current!,
      state: EditorState.create({
        doc: latest.current.value,
        extensions: [
          closeBrackets(),
          keymap.of([
            { key: "Tab", run: acceptCompletion },
            // Steps are the draft's, not the editor's: a rule that was moved and a letter that was typed go back in the same order.
            { key: "Mod-z", run: () => (latest.current.onUndo(), true), preventDefault: true },
            { key: "Mod-y", run: () => (latest.current.onRedo(), true), preventDefault: true },
            { key: "Mod-Shift-z", run: () => (latest.current.onRedo(), true), preventDefault: true },
            ...closeBracketsKeymap,
            ...completionKeymap,
            ...defaultKeymap.filter((binding) => binding.key !== "Enter" && binding.key !== "Mod-Enter"),
          ]),
          EditorState.transactionFilter.of((transaction) => {
            if (!transaction.docChanged || transaction.newDoc.lines === 1) return transaction;
            return [transaction, { changes: breaks(transaction.newDoc.toString()), sequential: true }];
          }),
          EditorView.contentAttributes.of({
            "aria-label": latest.current.label,
            spellcheck: "false",
            "aria-describedby": latest.current.describedBy,
          }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged || update.selectionSet || update.geometryChanged) measureUnder(update.view);
            if (!update.docChanged) return;
            if (update.view.hasFocus) latest.current.onChoose?.();
            latest.current.onChange(update.state.doc.toString());
          }),
          EditorView.domEventHandlers({ mousedown: () => latest.current.onChoose?.() }),
          EditorView.lineWrapping,
          hint.current.of(placeholder(latest.current.placeholder)),
          language.current.of(lineLanguage(latest.current.fields)),
        ],
      }),
    });
    view.current = made;
    setThere(true);
    return () => made.destroy();
  }, []);

  // What the palettes put in goes where the cursor is; `cursor` is where it stands then, from the beginning of what was put in.
  useEffect(() => {
    const { insertAt } = props;
    if (!insertAt) return;
    insertAt.current = (text, cursor) => {
      const made = view.current!;
      const { from, to } = made.state.selection.main;
      const piece = text.replace("…", made.state.sliceDoc(from, to));
      made.dispatch({
        changes: { from, to, insert: piece },
        selection: { anchor: from + (cursor ?? piece.length) },
        userEvent: "input",
      });
      made.focus();
    };
    return () => {
      insertAt.current = null;
    };
  });

  useEffect(() => {
    view.current?.dispatch({ effects: hint.current.reconfigure(placeholder(props.placeholder)) });
  }, [props.placeholder]);

  useEffect(() => {
    view.current?.dispatch({ effects: language.current.reconfigure(lineLanguage(props.fields)) });
  }, [props.fields]);

  useEffect(() => {
    const now = view.current?.state.doc.toString();
    if (!view.current || now === undefined || now === props.value) return;
    // Only what differs is put in, so that the cursor stays where it can.
    let from = 0;
    while (from < now.length && from < props.value.length && now[from] === props.value[from]) from++;
    let tail = 0;
    while (
      tail < now.length - from &&
      tail < props.value.length - from &&
      now.at(-1 - tail) === props.value.at(-1 - tail)
    )
      tail++;
    view.current.dispatch({
      changes: { from, to: now.length - tail, insert: props.value.slice(from, props.value.length - tail) },
    });
  }, [props.value]);

  return (
    <div ref={holder} className={`line-editor min-w-0 flex-1 ${props.invalid ? "line-invalid" : ""}`}>
      {!isThere && (
        <div aria-hidden="true" className="line-static">
          {props.value ? <StaticLine source={props.value} /> : <span className="text-faint">{props.placeholder}</span>}
        </div>
      )}
    </div>
  );
}

/** What is said of a line stands below it: completions open below that, so that both can be read. */
function measureUnder(view: EditorView): void {
  view.requestMeasure({
    key: measureUnder,
    read: (editor) => {
      const cursor = editor.coordsAtPos(editor.state.selection.main.head);
      return cursor ? Math.max(0, editor.dom.getBoundingClientRect().bottom - cursor.bottom) : 0;
    },
    write: (under, editor) => editor.dom.style.setProperty("--under-cursor", `${Math.round(under)}px`),
  });
}

function breaks(text: string): { from: number; to: number; insert: string }[] {
  return [...text.matchAll(/\n/g)].map((match) => ({ from: match.index, to: match.index + 1, insert: " " }));
}
