/** Terms of our own, in the words of docs/words.md. */
export const GLOSSARY = {
  line: "A template for one text, such as {name} – {category}. It makes the text of every page of a kind, or of the pages a rule matches.",
  piece:
    "A part of a line in [brackets]. It is used only if its fields have values, and it can be dropped when space runs short.",
  field: "A value of a page in {braces}, such as {name} or {price}.",
  rule: "A condition with lines of its own. The first rule that matches a page and sets the text decides.",
  base: "The lines for every page that no rule decides.",
  surface: "A place where a text is seen, such as desktop results: a font, a size, a width and a number of lines.",
  room: "How wide a text may be on its surface; for a slug, how many characters it may have.",
  live: "What the site has now, as of the last import or run.",
  draft: "The lines as they are being edited. They are saved as you type and change nothing until you apply them.",
  version:
    "The lines of a kind as they were at one moment. Every run saves one, and you can save one under a name at any time.",
  "by hand": "A text a person wrote for one page. No line replaces it.",
  finding: "A fault, or something worth a look, in one text or on one page.",
  run: "One application of changes to many pages. It can be stopped, continued and undone.",
} as const;

export type GlossaryTerm = keyof typeof GLOSSARY;
