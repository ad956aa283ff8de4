import { type ReactNode } from "react";
import { type LineMark, lineMarks } from "./line-marks";

/** A line as its editor draws it, as long as that is not there: when it comes, nothing looks otherwise. */
export function StaticLine({ source }: { source: string }) {
  return <>{drawn(source, 0, source.length, lineMarks(source))}</>;
}

/** A stretch of a line. @param marks those that lie in it, the outer before the inner. */
function drawn(source: string, from: number, to: number, marks: readonly LineMark[]): ReactNode[] {
  const parts: ReactNode[] = [];
  let at = from;
  let next = 0;
  while (next < marks.length) {
    const outer = marks[next]!;
    const end = Math.min(outer.to, to);
    let after = next + 1;
    while (after < marks.length && marks[after]!.from < end) after++;
    parts.push(
      source.slice(at, outer.from),
      <span key={next} className={`line-${outer.mark}`}>
        {drawn(source, outer.from, end, marks.slice(next + 1, after))}
      </span>,
    );
    at = end;
    next = after;
  }
  return [...parts, source.slice(at, to)];
}
