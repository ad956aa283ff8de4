"use client";
import { useCallback, useMemo, useRef } from "react";
import { linesOf, withLine } from "../../core/design/change-rules";
import { type KindDesign } from "../../core/design/design";
import { type TextName, TEXTS } from "../../core/design/kinds";
import { type Line } from "../../core/lines/ast";
import { type KnownFields, parseLine } from "../../core/lines/parse";

/** Lines parsed once for each wording, as long as the fields are the same. */
export function useParsed(
  design: KindDesign,
  known: KnownFields | undefined,
): (source: string | undefined) => Line | null {
  const cache = useRef<{ known: KnownFields | undefined; lines: Map<string, Line> }>({ known, lines: new Map() });
  return useMemo(() => {
    if (cache.current.known !== known || cache.current.lines.size > 20_000) cache.current = { known, lines: new Map() };
    const { lines } = cache.current;
    return (source) => {
      if (source === undefined) return null;
      let line = lines.get(source);
      if (!line) lines.set(source, (line = parseLine(source, known)));
      return line;
    };
    // With another design the function is another one, so that what is drawn with it is drawn anew.
  }, [known, design]); // eslint-disable-line react-hooks/exhaustive-deps
}

export interface GoodDesign {
  readonly design: KindDesign;
  readonly lineOf: (owner: string, text: TextName) => Line | null;
}

/**
 * The design that is proved while another is typed: a line with an error stands as it last was without one, so that
 * the figures and rows do not jump at every half-typed field.
 */
export function useGoodDesign(
  kind: string,
  design: KindDesign,
  parsed: (source: string | undefined) => Line | null,
): GoodDesign {
  const lastGood = useRef(new Map<string, string>());
  const good = useMemo(() => {
    let proved = design;
    for (const owner of ["base", ...design.rules.map((rule) => rule.id)]) {
      const lines = linesOf(design, owner);
      for (const text of TEXTS) {
        const source = lines[text];
        if (source === undefined) continue;
        const name = `${kind} ${owner} ${text}`;
        if (parsed(source)!.errors.length === 0) lastGood.current.set(name, source);
        else if (lastGood.current.has(name)) proved = withLine(proved, owner, text, lastGood.current.get(name)!);
      }
    }
    return proved;
  }, [kind, design, parsed]);
  const lineOf = useCallback((owner: string, text: TextName) => parsed(linesOf(good, owner)[text]), [good, parsed]);
  return useMemo(() => ({ design: good, lineOf }), [good, lineOf]);
}
