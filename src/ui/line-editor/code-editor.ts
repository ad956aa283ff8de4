import { acceptCompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from "@codemirror/autocomplete";
import { defaultKeymap } from "@codemirror/commands";
import { Annotation, Compartment, EditorSelection, EditorState } from "@codemirror/state";
import { EditorView, keymap, placeholder, runScopeHandlers } from "@codemirror/view";
import type { FieldInfo } from "../../server/bench/field-infos";
import { lineLanguage } from "./line-language";

/** What an editor is opened with. */
interface Opened {
  readonly value: string;
  readonly label: string;
  readonly describedBy: string;
  readonly placeholder: string;
  readonly fields: readonly FieldInfo[];
  readonly onChange: (value: string) => void;
  /** The line is clicked or typed in. */
  readonly onChoose: () => void;
  readonly onUndo: () => void;
  readonly onRedo: () => void;
}

/** What is selected, in characters from the line's beginning. */
export interface Selected {
  readonly anchor: number;
  readonly head: number;
}

/** Marks what the line was set to from outside, by a step back for one: nobody typed that. */
const GIVEN = Annotation.define<true>();

/** An editor of one line, in an element of the page. */
export class CodeEditor {
  private readonly view: EditorView;
  private readonly language = new Compartment();
  private readonly hint = new Compartment();

  constructor(parent: HTMLElement, opened: Opened) {
    this.view = new EditorView({
      parent,
      state: EditorState.create({
        doc: opened.value,
        extensions: [
          closeBrackets(),
          keymap.of([
            { key: "Tab", run: acceptCompletion },
            // Steps are the draft's, not the editor's: a rule that was moved and a letter that was typed go back in the same order.
            { key: "Mod-z", run: () => (opened.onUndo(), true), preventDefault: true },
            { key: "Mod-y", run: () => (opened.onRedo(), true), preventDefault: true },
            { key: "Mod-Shift-z", run: () => (opened.onRedo(), true), preventDefault: true },
            ...closeBracketsKeymap,
            ...completionKeymap,
            ...defaultKeymap.filter((binding) => binding.key !== "Enter" && binding.key !== "Mod-Enter"),
          ]),
          EditorState.transactionFilter.of((transaction) => {
            if (!transaction.docChanged || transaction.newDoc.lines === 1) return transaction;
            return [transaction, { changes: breaks(transaction.newDoc.toString()), sequential: true }];
          }),
          EditorView.contentAttributes.of({
            "aria-label": opened.label,
            spellcheck: "false",
            "aria-describedby": opened.describedBy,
          }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged || update.selectionSet || update.geometryChanged) measureUnder(update.view);
            if (update.selectionSet) forgetSide(update.view);
            if (!update.docChanged || update.transactions.every((one) => one.annotation(GIVEN))) return;
            if (update.view.hasFocus) opened.onChoose();
            opened.onChange(update.state.doc.toString());
          }),
          EditorView.domEventHandlers({
            mousedown: opened.onChoose,
            // It may be in the middle of an update.
            blur: (_, view) => queueMicrotask(() => forgetSide(view)),
          }),
          EditorView.lineWrapping,
          this.hint.of(placeholder(opened.placeholder)),
          this.language.of(lineLanguage(opened.fields)),
        ],
      }),
    });
  }

  focus(): void {
    this.view.focus();
  }

  select({ anchor, head }: Selected): void {
    const { length } = this.view.state.doc;
    this.view.dispatch({ selection: { anchor: Math.min(anchor, length), head: Math.min(head, length) } });
  }

  /** Does what a key does that was pressed before the editor was there. */
  press(key: KeyboardEvent): void {
    if (runScopeHandlers(this.view, key, "editor")) return;
    if ([...key.key].length === 1 && !key.ctrlKey && !key.metaKey) this.put(key.key);
  }

  /** Puts in what was typed, said or pasted before the editor was there. */
  put(text: string): void {
    const { state } = this.view;
    this.view.dispatch(state.update(state.replaceSelection(text), { userEvent: "input.type" }));
  }

  close(): void {
    this.view.destroy();
  }

  setPlaceholder(words: string): void {
    this.view.dispatch({ effects: this.hint.reconfigure(placeholder(words)) });
  }

  setFields(fields: readonly FieldInfo[]): void {
    this.view.dispatch({ effects: this.language.reconfigure(lineLanguage(fields)) });
  }

  /** Puts a text in at the cursor, around what is selected where it has a “…”. @param cursor where the cursor is then, from its beginning. */
  insert(text: string, cursor?: number): void {
    const { from, to } = this.view.state.selection.main;
    const piece = text.replace("…", this.view.state.sliceDoc(from, to));
    this.view.dispatch({
      changes: { from, to, insert: piece },
      selection: { anchor: from + (cursor ?? piece.length) },
      userEvent: "input",
    });
    this.view.focus();
  }

  /** Only what differs is put in, so that the cursor stays where it can. */
  setValue(value: string): void {
    const now = this.view.state.doc.toString();
    if (now === value) return;
    let from = 0;
    while (from < now.length && from < value.length && now[from] === value[from]) from++;
    let tail = 0;
    while (tail < now.length - from && tail < value.length - from && now.at(-1 - tail) === value.at(-1 - tail)) tail++;
    this.view.dispatch({
      changes: { from, to: now.length - tail, insert: value.slice(from, value.length - tail) },
      annotations: GIVEN.of(true),
    });
  }
}

/**
 * Forgets on which row a cursor stands where the line is wrapped: at the end of one, or the beginning of the next. CodeMirror puts the browser's
 * selection there whether or not it has the focus, and the browser gives the focus to where the selection is put, away from another line.
 */
function forgetSide(view: EditorView): void {
  const { main } = view.state.selection;
  if (view.hasFocus || !main.empty || main.assoc === 0) return;
  view.dispatch({ selection: EditorSelection.cursor(main.head) });
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
