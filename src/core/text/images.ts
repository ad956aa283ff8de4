import { Parser } from "htmlparser2";
import { foldedSpaces } from "./plain";
import { attributeSpan, escapedAttribute } from "./tag-attributes";

/** An image of a body. */
export interface BodyImage {
  /** Which of the body's images it is, from 1. */
  readonly number: number;
  /** Its address as it stands there. */
  readonly src: string;
  /** What is said of it, `""` for nothing. */
  readonly alt: string;
  /** Its tag as it stands there, and where that begins and ends. */
  readonly tag: string;
  readonly from: number;
  readonly to: number;
}

/**
 * The images of a body in their order.
 *
 * @example imagesOf('<p><img src="/oar.jpg" alt=""></p>') // [{ number: 1, src: "/oar.jpg", alt: "", tag: '<img src="/oar.jpg" alt="">', from: 3, to: 30 }]
 */
export function imagesOf(html: string): BodyImage[] {
  if (!/<img/i.test(html)) return [];
  const found: BodyImage[] = [];
  const parser = new Parser({
    onopentag(name, attributes) {
      if (name !== "img") return;
      const from = parser.startIndex;
      const to = parser.endIndex + 1;
      found.push({
        number: found.length + 1,
        src: attributes["src"] ?? "",
        alt: foldedSpaces(attributes["alt"] ?? ""),
        tag: html.slice(from, to),
        from,
        to,
      });
    },
  });
  parser.end(html);
  return found;
}

/**
 * An image's tag that says something else of the image; all else of it stays as it is.
 *
 * @example withAlt("<img src=/oar.jpg alt>", "An oar, 7′") // '<img src=/oar.jpg alt="An oar, 7′">'
 */
export function withAlt(tag: string, alt: string): string {
  const put = `alt="${escapedAttribute(alt)}"`;
  const own = attributeSpan(tag, "alt");
  if (own) return tag.slice(0, own.from) + put + tag.slice(own.to);
  const start = "<img".length;
  return `${tag.slice(0, start)} ${put}${tag.slice(start)}`;
}

/** A body with one image's tag replaced. */
export function withTag(html: string, { from, to }: Pick<BodyImage, "from" | "to">, tag: string): string {
  return html.slice(0, from) + tag + html.slice(to);
}

/**
 * An image's file as words: without folders, ending, query and what a resizer puts behind the name.
 *
 * @example imageFile("/i/2026/waxed-thread_close%20up-300x200.jpg?v=2") // "waxed thread close up"
 */
export function imageFile(src: string): string {
  const path = src.replace(/[?#].*$/s, "");
  const name = path.slice(path.lastIndexOf("/") + 1);
  const bare = decoded(name.replace(/\.[a-z0-9]{2,5}$/i, "")).replace(/-\d+x\d+$/, "");
  return foldedSpaces(bare.replace(/[-_+\s]+/g, " "));
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
