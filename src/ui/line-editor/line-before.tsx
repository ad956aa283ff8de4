import { type KeyboardEvent, useEffect, useRef } from "react";
import type { CodeEditor, Selected } from "./code-editor";
import { StaticLine } from "./static-line";

/** Does something with the editor when it is there. */
type Work = (editor: CodeEditor) => void;

/**
 * A line as long as it has no editor: it looks the same and is gone to in the same ways. Nothing of it changes, since what is typed, said or
 * pasted is done in the editor then.
 */
export function LineBefore(props: {
  label: string;
  value: string;
  describedBy: string;
  placeholder: string;
  onChoose?: (() => void) | undefined;
  /** Somebody comes near. */
  onNear: () => void;
  onWork: (work: Work) => void;
}) {
  const { value, placeholder, onNear, onWork } = props;
  const line = useRef<HTMLDivElement>(null);
  const latest = useRef(onWork);
  latest.current = onWork;

  useEffect(() => {
    const own = line.current!;
    // Not before: what is typed into a page that is not at work yet would make another page of it.
    own.contentEditable = "true";
    const take = (event: InputEvent) => {
      event.preventDefault();
      const text = event.data ?? event.dataTransfer?.getData("text/plain") ?? "";
      if (text !== "" && event.inputType !== "insertCompositionText") latest.current((editor) => editor.put(text));
    };
    const takeComposed = (event: CompositionEvent) => latest.current((editor) => editor.put(event.data));
    own.addEventListener("beforeinput", take);
    own.addEventListener("compositionend", takeComposed);
    return () => {
      own.removeEventListener("beforeinput", take);
      own.removeEventListener("compositionend", takeComposed);
    };
  }, []);

  const press = (event: KeyboardEvent) => {
    const { key, ctrlKey, metaKey, nativeEvent } = event;
    const isClipboards = (ctrlKey || metaKey) && /^[cvx]$/i.test(key);
    if (LEFT_ALONE.has(key) || isClipboards || nativeEvent.isComposing) return;
    event.preventDefault();
    onWork((editor) => editor.press(nativeEvent));
  };
  return (
    <div
      ref={line}
      role="textbox"
      aria-label={props.label}
      aria-describedby={props.describedBy}
      spellCheck={false}
      className="line-static"
      tabIndex={0}
      onMouseEnter={onNear}
      onMouseDown={props.onChoose}
      // Not at once: where it is clicked, the browser still has to put the cursor there.
      onFocus={() => setTimeout(onNear, 0)}
      onKeyDown={press}
    >
      {value ? (
        <StaticLine source={value} />
      ) : (
        <span contentEditable={false} className="text-faint">
          {placeholder}
        </span>
      )}
    </div>
  );
}

/** Keys that are not the line's, or that say what they are for by what they put in. */
const LEFT_ALONE: ReadonlySet<string> = new Set([
  ...["Tab", "Escape", "Shift", "Control", "Alt", "AltGraph", "Meta"],
  ...["Process", "Dead", "Unidentified"],
]);

/** What is selected in the line that stands in an element, in characters; `null` where it has not the focus. */
export function placeIn(holder: HTMLElement): Selected | null {
  const line = holder.querySelector(".line-static");
  const selection = document.getSelection();
  if (!line || !line.contains(document.activeElement) || !selection?.anchorNode || !selection.focusNode) return null;
  const charsTo = (node: Node, offset: number) => {
    if (!line.contains(node)) return 0;
    const before = document.createRange();
    before.selectNodeContents(line);
    before.setEnd(node, offset);
    return before.toString().length;
  };
  return {
    anchor: charsTo(selection.anchorNode, selection.anchorOffset),
    head: charsTo(selection.focusNode, selection.focusOffset),
  };
}
