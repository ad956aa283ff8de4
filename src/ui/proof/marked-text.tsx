import { type Stretch } from "../../core/proof/word-changes";

const MARKS = {
  goes: (text: string) => <del className="goes">{text}</del>,
  comes: (text: string) => <ins className="decoration-rule decoration-2 underline-offset-[5px]">{text}</ins>,
  differs: (text: string) => <u className="decoration-hair decoration-2 underline-offset-[5px]">{text}</u>,
};

/** A text with what the other one has not marked, word by word. */
export function MarkedText({ stretches, as }: { stretches: readonly Stretch[]; as: keyof typeof MARKS }) {
  return stretches.map(({ text, isChanged }, i) => <span key={i}>{isChanged ? MARKS[as](text) : text}</span>);
}
