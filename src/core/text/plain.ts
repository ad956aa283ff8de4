import { decodeHTML } from "entities";
import { Parser } from "htmlparser2";

const INVISIBLE =
  /[\u0000-\u0008\u000e-\u001f\u007f-\u009f\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/;
const NEEDS_WORK =
  /[<&\u0000-\u001f\u007f-\u00a0\u00ad\u061c\u1680\u2000-\u200b\u200e\u200f\u2028-\u202f\u205f-\u2069\u3000\ufeff\ud800-\udfff]|^ | $| {2}/;

/**
 * A value as plain text: tags stripped, entities decoded once, white space folded, control and direction characters removed.
 *
 * @example plainText("Rope &amp; <b>twine</b>  kit") // "Rope & twine kit"
 */
export function plainText(value: string): string {
  if (!NEEDS_WORK.test(value)) return value;
  let text = value;
  if (/<[a-z!/?]/i.test(text)) text = withoutTags(text);
  else if (text.includes("&")) text = decodeHTML(text);
  return tidied(text);
}

const NEEDS_FOLDING =
  /[\u0000-\u001f\u007f-\u00a0\u00ad\u061c\u1680\u2000-\u200b\u200e\u200f\u2028-\u202f\u205f-\u2069\u3000\ufeff\ud800-\udfff]|^ | $| {2}/;

/**
 * A text that is plain already, with white space folded and control and direction characters removed: `<` and `&` are letters like others in it.
 *
 * @example foldedSpaces(" the &lt;title&gt;  tag") // "the &lt;title&gt; tag"
 */
export function foldedSpaces(text: string): string {
  return NEEDS_FOLDING.test(text) ? tidied(text) : text;
}

/** Stands between values that are put together: {@link arePlain}. It is in no plain text. */
export const VALUE_END = "\u001f";
const SOME_NEED_WORK =
  /[<&\u0000-\u001e\u007f-\u00a0\u00ad\u061c\u1680\u2000-\u200b\u200e\u200f\u2028-\u202f\u205f-\u2069\u3000\ufeff\ud800-\udfff]| {2}| \u001f|\u001f |^ | $/;

/** Whether every one of many values is plain text as it is, told of all at once: they are put together with {@link VALUE_END} between them. */
export function arePlain(values: string): boolean {
  return !SOME_NEED_WORK.test(values);
}

/** What a code unit is to {@link tidied}. */
const [KEPT, SPACE, DROPPED, SURROGATE] = [0, 1, 2, 3] as const;
const CLASSES = new Uint8Array(65536).fill(SURROGATE, 0xd800, 0xe000);
for (let code = 0; code < 65536; code++) {
  // Between are letters and signs alone: the table is made where a page opens.
  if (code === 0x3001) code = 0xf900;
  const char = String.fromCharCode(code);
  if (INVISIBLE.test(char)) CLASSES[code] = DROPPED;
  else if (/\s/.test(char)) CLASSES[code] = SPACE;
}

/** Without what is invisible and halves of broken letters, white space folded. Bodies are long: they are gone through once. */
function tidied(text: string): string {
  let out = "";
  let from = 0;
  let spaced = false;
  const keep = (to: number) => {
    if (to <= from) return;
    out += spaced && out !== "" ? ` ${text.slice(from, to)}` : text.slice(from, to);
    spaced = false;
  };
  for (let i = 0; i < text.length; i++) {
    const own = CLASSES[text.charCodeAt(i)]!;
    if (own === KEPT) continue;
    if (own === SURROGATE && isPair(text, i)) {
      i++;
      continue;
    }
    // A plain space between two letters stays where it is.
    if (
      own === SPACE &&
      i > from &&
      text.charCodeAt(i) === 32 &&
      i + 1 < text.length &&
      CLASSES[text.charCodeAt(i + 1)] === KEPT
    )
      continue;
    keep(i);
    if (own === SPACE) spaced = true;
    from = i + 1;
  }
  keep(text.length);
  return out;
}

function isPair(text: string, at: number): boolean {
  const [high, low] = [text.charCodeAt(at), text.charCodeAt(at + 1)];
  return high < 0xdc00 && low >= 0xdc00 && low < 0xe000;
}

/** What the text of a body is read for besides: its subheadings, h2 to h6, and the descriptions of its images. */
export interface HtmlParts {
  readonly text: string;
  readonly subheadings: readonly string[];
  /** `""` for an image that has none. */
  readonly images: readonly string[];
}

/**
 * Reads HTML once, for its plain text ({@link plainText}) and those parts.
 *
 * @example htmlParts("<h2>Care</h2><p>Oil it.</p><img alt='An oar'>") // { text: "Care Oil it.", subheadings: ["Care"], images: ["An oar"] }
 */
export function htmlParts(html: string): HtmlParts {
  if (!/<[a-z!/?]/i.test(html)) return { text: plainText(html), subheadings: [], images: [] };
  const subheadings: string[] = [];
  const images: string[] = [];
  const text = withoutTags(html, { subheadings, images });
  return { text: tidied(text), subheadings: subheadings.map(tidied), images: images.map(tidied) };
}

const BLOCKS = new Set([
  "p",
  "div",
  "br",
  "li",
  "ul",
  "ol",
  "tr",
  "td",
  "th",
  "h1",
  "h2",
  "h3",
  "h4",
  "h5",
  "h6",
  "section",
  "article",
  "blockquote",
  "figure",
  "hr",
]);
const SILENT = new Set(["script", "style", "template", "noscript"]);

const HEADINGS = new Set(["h2", "h3", "h4", "h5", "h6"]);

/** The text of HTML, white space as it comes; subheadings and images go to lists where there are some for them. */
function withoutTags(html: string, into?: { readonly subheadings: string[]; readonly images: string[] }): string {
  let text = "";
  let silent = 0;
  let heading: string | null = null;
  let described = true;
  /** Nothing came behind the tag of the last image yet. */
  let endsInImage = false;
  const parser = new Parser(
    {
      onopentagname(name) {
        if (SILENT.has(name)) silent++;
        if (BLOCKS.has(name)) text += " ";
        described = !into || name !== "img";
        endsInImage = !described;
        if (!described) into!.images.push("");
        if (into && HEADINGS.has(name)) heading = "";
      },
      // Heard of one by one: gathering the attributes of every tag would take longer than all the rest.
      onattribute(name, value) {
        if (described || name !== "alt") return;
        into!.images[into!.images.length - 1] = value;
        described = true;
      },
      onclosetag(closed, implied) {
        if (!implied) endsInImage = false;
        if (SILENT.has(closed)) silent--;
        if (BLOCKS.has(closed)) text += " ";
        if (heading === null || !HEADINGS.has(closed)) return;
        into!.subheadings.push(heading);
        heading = null;
      },
      ontext(part) {
        endsInImage = false;
        if (silent > 0) return;
        text += part;
        if (heading !== null) heading += part;
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  // The body ends within the tag: there is no image.
  if (endsInImage && parser.startIndex < html.length) into!.images.pop();
  return text;
}
