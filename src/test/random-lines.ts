import fc from "fast-check";

/** The fields that random lines read. */
export const LINE_FIELDS = ["name", "category", "colour", "size"];
const word = fc.stringMatching(/^[a-zA-Zäø’]{1,7}$/);
const literal = fc.oneof(word, fc.constantFrom(" – ", " | ", ", ", ": ", " in ", " ", " (", ") ", " & ", ". "));
const field = fc.constantFrom(...LINE_FIELDS).map((name) => `{${name}}`);
const flat = fc
  .array(fc.oneof({ weight: 2, arbitrary: field }, literal), { minLength: 1, maxLength: 4 })
  .map((parts) => parts.join(""));
const caret = fc.constantFrom("", "", "^1", "^2", "^3", "^keep ");
const { piece } = fc.letrec<{ piece: string; inside: string }>((tie) => ({
  inside: fc
    .tuple(flat, fc.option(tie("piece"), { nil: "", maxDepth: 2, depthSize: "small" }), fc.option(flat, { nil: "" }))
    .map((parts) => parts.join("")),
  piece: fc
    .tuple(fc.array(tie("inside"), { minLength: 1, maxLength: 3 }), caret)
    .map(([alternatives, own]) => `[${alternatives.join("||")}]${own}`),
}));
/** A line of pieces, alternatives, carets and fields, as anybody might write one. */
export const randomLine = fc
  .array(fc.oneof(flat, piece), { minLength: 1, maxLength: 5 })
  .map((parts) => parts.join(""));
const value = fc.option(
  fc.array(word, { minLength: 1, maxLength: 4 }).map((words) => words.join(" ")),
  { nil: "" },
);
/** What lines read of a page, some of it missing. */
export const randomItem = fc.record({ name: value, category: value, colour: value, size: value, keyword: value });
