"use client";
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { FieldInfo } from "../../server/bench/field-infos";
import { Later, useLater } from "../shell/later";
import type { CodeEditor } from "./code-editor";
import { StaticLine } from "./static-line";

const EDITOR = new Later(() => import("./code-editor"));

/** One line of the line language, edited; line breaks that are pasted become spaces. Its editor comes later, and until then the line stands there. */
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
  const editing = useLater(EDITOR, true);
  const holder = useRef<HTMLDivElement>(null);
  const [editor, setEditor] = useState<CodeEditor | null>(null);
  const isWanted = useRef(false);
  /** What was put in before there was an editor. */
  const waiting = useRef<[text: string, cursor: number | undefined][]>([]);
  const latest = useRef(props);
  latest.current = props;

  // Before anything is drawn: the line stands in its place already.
  useLayoutEffect(() => {
    if (!editing) return;
    const { value, label, describedBy, placeholder, fields } = latest.current;
    const made = new editing.CodeEditor(holder.current!, {
      ...{ value, label, describedBy, placeholder, fields },
      onChange: (typed) => latest.current.onChange(typed),
      onChoose: () => latest.current.onChoose?.(),
      onUndo: () => latest.current.onUndo(),
      onRedo: () => latest.current.onRedo(),
    });
    if (isWanted.current) made.focus();
    waiting.current.splice(0).forEach(([text, cursor]) => made.insert(text, cursor));
    setEditor(made);
    return () => made.close();
  }, [editing]);

  // What the palettes put in goes where the cursor is.
  const { insertAt } = props;
  useEffect(() => {
    if (!insertAt) return;
    const insert = (text: string, cursor?: number) => {
      if (editor) editor.insert(text, cursor);
      else waiting.current.push([text, cursor]);
    };
    insertAt.current = insert;
    return () => {
      // Another editor may have taken its place.
      if (insertAt.current === insert) insertAt.current = null;
    };
  }, [insertAt, editor]);
  useEffect(() => editor?.setPlaceholder(props.placeholder), [editor, props.placeholder]);
  useEffect(() => editor?.setFields(props.fields), [editor, props.fields]);
  useEffect(() => editor?.setValue(props.value), [editor, props.value]);

  const choose = () => {
    isWanted.current = true;
    props.onChoose?.();
  };
  return (
    <div ref={holder} className={`line-editor min-w-0 flex-1 ${props.invalid ? "line-invalid" : ""}`}>
      {!editor && (
        <div aria-hidden="true" className="line-static" onMouseDown={choose}>
          {props.value ? <StaticLine source={props.value} /> : <span className="text-faint">{props.placeholder}</span>}
        </div>
      )}
    </div>
  );
}
