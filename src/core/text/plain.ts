import { decodeHTML } from "entities";
import { Parser } from "htmlparser2";

const INVISIBLE = /[\u0000-\u0008\u000e-\u001f\u007f-\u009f\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u2069\ufeff]/;
const INVISIBLE_ALL = new RegExp(INVISIBLE.source, "g");
const LONE_SURROGATE = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const NEEDS_WORK = /[<&\u0000-\u001f\u007f-\u00a0\u00ad\u061c\u1680\u2000-\u200b\u200e\u200f\u2028-\u202f\u205f-\u2069\u3000\ufeff\ud800-\udfff]|^ | $| {2}/;

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
  return text.replace(LONE_SURROGATE, "").replace(/[\t\n\v\f\r]/g, " ").replace(INVISIBLE_ALL, "").replace(/\s+/g, " ").trim();
}

const BLOCKS = new Set(["p", "div", "br", "li", "ul", "ol", "tr", "td", "th", "h1", "h2", "h3", "h4", "h5", "h6", "section", "article", "blockquote", "figure", "hr"]);
const SILENT = new Set(["script", "style", "template", "noscript"]);

function withoutTags(html: string): string {
  let text = "";
  let silent = 0;
  const parser = new Parser({
    onopentagname(name) {
      if (SILENT.has(name)) silent++;
      if (BLOCKS.has(name)) text += " ";
    },
    onclosetag(name) {
      if (SILENT.has(name)) silent--;
      if (BLOCKS.has(name)) text += " ";
    },
    ontext(part) {
      if (silent === 0) text += part;
    },
  }, { decodeEntities: true });
  parser.end(html);
  return text;
}
