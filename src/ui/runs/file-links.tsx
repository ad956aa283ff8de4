import { type OutFileFormat } from "../../core/items/taken-out";
import { PLAIN_ACTION } from "../shell/actions";
import { FileLink } from "../shell/link";

const FORMATS: readonly (readonly [OutFileFormat, string])[] = [
  ["csv", "CSV"],
  ["jsonl", "JSON Lines"],
  ["xlsx", "XLSX"],
];

/** Links to a list in each format that it can be taken out in: “Changes as CSV”, “as JSON Lines”, “as XLSX”. */
export function FileLinks({
  what,
  href,
  formats = FORMATS.map(([format]) => format),
}: {
  what: string;
  href: string;
  formats?: readonly OutFileFormat[];
}) {
  const separator = href.includes("?") ? "&" : "?";
  return FORMATS.filter(([format]) => formats.includes(format)).map(([format, word], i) => (
    <FileLink
      key={format}
      className={PLAIN_ACTION}
      href={`${href}${separator}format=${format}`}
      aria-label={`${what} as ${word}`}
    >
      {i === 0 ? `${what} as ${word}` : `as ${word}`}
    </FileLink>
  ));
}
