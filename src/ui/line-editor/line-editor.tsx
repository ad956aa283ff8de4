"use client";
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { FieldInfo } from "../../server/bench/field-infos";
import { Later, useLater } from "../shell/later";
import type { CodeEditor, Selected } from "./code-editor";
import { LineBefore, placeIn } from "./line-before";

const EDITOR = new Later(() => import("./code-editor"));

/**
 * One line of the line language, edited; line breaks that are pasted become spaces. Its editor is made when somebody comes near: until then the
 * line stands there as it will, can be gone to, and keeps what is typed.
 */
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
  const [isNear, setNear] = useState(false);
  const editing = useLater(EDITOR, isNear);
  const holder = useRef<HTMLDivElement>(null);
  const [editor, setEditor] = useState<CodeEditor | null>(null);
  /** What is to be done with the editor when it is there. */
  const waiting = useRef<((editor: CodeEditor) => void)[]>([]);
  /** What was selected as the first of it was typed; the focus may be elsewhere by then. */
  const begunAt = useRef<Selected | null>(null);
  const latest = useRef(props);
  latest.current = props;

  // Before anything is drawn: the line stands in its place already, and gives the focus over before it goes.
  useLayoutEffect(() => {
    if (!editing || !isNear) return;
    const { value, label, describedBy, placeholder, fields } = latest.current;
    const made = new editing.CodeEditor(holder.current!, {
      ...{ value, label, describedBy, placeholder, fields },
      onChange: (typed) => latest.current.onChange(typed),
      onChoose: () => latest.current.onChoose?.(),
      onUndo: () => latest.current.onUndo(),
      onRedo: () => latest.current.onRedo(),
    });
    const here = placeIn(holder.current!);
    if (here) made.focus();
    const selected = begunAt.current ?? here;
    if (selected) made.select(selected);
    waiting.current.splice(0).forEach((work) => work(made));
    setEditor(made);
    return () => made.close();
  }, [editing, isNear]);

  // What the palettes put in goes where the cursor is.
  const { insertAt } = props;
  useEffect(() => {
    if (!insertAt) return;
    const insert = (text: string, cursor?: number) => {
      if (editor) return editor.insert(text, cursor);
      waiting.current.push((made) => made.insert(text, cursor));
      setNear(true);
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

  return (
    <div ref={holder} className={`line-editor min-w-0 flex-1 ${props.invalid ? "line-invalid" : ""}`}>
      {!editor && (
        <LineBefore
          {...props}
          onNear={() => setNear(true)}
          onWork={(work) => {
            begunAt.current ??= placeIn(holder.current!);
            waiting.current.push(work);
            setNear(true);
          }}
        />
      )}
    </div>
  );
}
