import type { useItems } from "./use-items";

/** A heading of the list, with how many pages follow it from which place of the order on. */
export interface SectionLine {
  readonly label: string;
  readonly count: number;
  readonly from: number;
}

/** What stands at a line of the list: a page, or the heading of those that follow. */
export type Line = { readonly place: number } | SectionLine;

/** The lines of a list and where a page stands among them. */
export interface ListLines {
  readonly count: number;
  readonly at: (line: number) => Line;
  readonly lineOf: (place: number) => number;
}

/** The lines of a list of so many pages, with the headings of its sections between them where it has some. */
export function linesOf(total: number, sections: ReturnType<typeof useItems>["sections"]): ListLines {
  if (!sections) return { count: total, at: (line) => ({ place: line }), lineOf: (place) => place };
  const starts: { line: number; from: number; label: string; count: number }[] = [];
  let from = 0;
  for (const { label, count: own } of sections) {
    starts.push({ line: from + starts.length, from, label, count: own });
    from += own;
  }
  const sectionOf = (value: number, key: "line" | "from") => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (starts[middle]![key] <= value) low = middle;
      else high = middle - 1;
    }
    return low;
  };
  return {
    count: total + starts.length,
    at: (line) => {
      const number = sectionOf(line, "line");
      const section = starts[number];
      if (!section) return { place: line };
      return section.line === line
        ? { label: section.label, count: section.count, from: section.from }
        : { place: line - number - 1 };
    },
    lineOf: (place) => place + sectionOf(place, "from") + 1,
  };
}
