import {
  autocompletion,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from "@codemirror/autocomplete";
import { type Extension, Facet, RangeSetBuilder } from "@codemirror/state";
import {
  Decoration,
  type DecorationSet,
  EditorView,
  hoverTooltip,
  ViewPlugin,
  type ViewUpdate,
} from "@codemirror/view";
import { type Node } from "../../core/lines/ast";
import { FILTERS } from "../../core/lines/filters";
import { parseLine } from "../../core/lines/parse";
import { readingOf } from "../../core/lines/reading";
import type { FieldInfo } from "../../server/bench/field-infos";
import { knownFields, percent } from "./known-fields";
import { lineMarks, MARKS } from "./line-marks";

/** The fields that lines may use here, with how many items have each and a real value. */
export const fieldInfos = Facet.define<readonly FieldInfo[], readonly FieldInfo[]>({
  combine: (values) => values[0] ?? [],
});

const DECORATIONS = new Map(MARKS.map((mark) => [mark, Decoration.mark({ class: `line-${mark}` })]));

function decorate(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  const known = knownFields(view.state.facet(fieldInfos));
  for (const { from, to, mark } of lineMarks(view.state.doc.toString(), known))
    builder.add(from, to, DECORATIONS.get(mark)!);
  return builder.finish();
}

const highlighter = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorate(view);
    }
    update(update: ViewUpdate) {
      if (update.docChanged || update.startState.facet(fieldInfos) !== update.state.facet(fieldInfos))
        this.decorations = decorate(update.view);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

function complete(context: CompletionContext): CompletionResult | null {
  const before = context.state.sliceDoc(0, context.pos);
  const open = before.lastIndexOf("{");
  if (open < 0 || before.indexOf("}", open) >= 0) {
    const caret = /\]\^[a-z]*$/.exec(before);
    return caret ? { from: before.lastIndexOf("^") + 1, options: CARETS } : null;
  }
  const inside = before.slice(open + 1);
  const filter = /:\s*([a-z]*)$/i.exec(inside);
  if (filter) {
    const options = FILTERS.map((f): Completion => ({
      label: f.name,
      type: "function",
      info: f.meaning,
      detail: f.args.length > 0 ? `(${f.args.join(", ")})` : "",
      ...(f.args.length > 0 ? { apply: `${f.name}(` } : {}),
    }));
    return { from: context.pos - filter[1]!.length, options };
  }
  const word = /(?:^|\bor\s+)\s*([\p{L}\p{N}_.]*)$/u.exec(inside);
  if (!word) return null;
  const options = context.state
    .facet(fieldInfos)
    .filter((info) => info.filled > 0)
    .map(
      (info): Completion =>
        ({
          label: info.name,
          type: "field",
          detail: percent(info.filled),
          info: [info.meaning, info.example && `“${info.example}”`].filter(Boolean).join(": ") || undefined,
          boost: info.filled,
          apply: (view, _completion, from, to) => {
            const closed = view.state.sliceDoc(to, to + 1) === "}";
            view.dispatch({
              changes: { from, to, insert: info.name + (closed ? "" : "}") },
              selection: { anchor: from + info.name.length + 1 },
              userEvent: "input.complete",
            });
          },
        }) as Completion,
    );
  return { from: context.pos - word[1]!.length, options, validFor: /^[\p{L}\p{N}_.]*$/u };
}

/** What the mark at an offset of a line does, in words: the innermost one. */
export function markAt(
  source: string,
  at: number,
  infos: readonly FieldInfo[],
): { from: number; to: number; title: string; lines: string[] } | null {
  let found: ReturnType<typeof markAt> = null;
  const walk = (nodes: readonly Node[]) => {
    for (const node of nodes) {
      if (at < node.from || at > node.to || node.type === "text") continue;
      if (node.type === "field") {
        const facts = node.sources.flatMap((source) => {
          const info = source.type === "name" ? infos.find((one) => one.name === source.name) : undefined;
          return info
            ? [
                `${info.name}: ${[info.meaning, percent(info.filled), info.example && `such as “${info.example}”`].filter(Boolean).join("; ")}`,
              ]
            : [];
        });
        found = { from: node.from, to: node.to, title: readingOf([node]), lines: facts };
        continue;
      }
      const caret = node.caret;
      const lines =
        caret?.type === "order"
          ? [`Dropped ${caret.order === 1 ? "first" : `as number ${caret.order}`} when space runs short`]
          : caret?.type === "keep"
            ? ["Never dropped to save space"]
            : caret?.type === "apart"
              ? ["Shown only where another page would have the same text without it"]
              : ["Dropped after the numbered pieces when space runs short, from the right"];
      found = {
        from: node.from,
        to: node.to,
        title: readingOf([node]),
        lines: [...lines, "Shown only if every field in it has a value"],
      };
      node.alternatives.forEach(walk);
    }
  };
  walk(parseLine(source).nodes);
  return found;
}

const hover = hoverTooltip(
  (view, pos) => {
    const mark = markAt(view.state.doc.toString(), pos, view.state.facet(fieldInfos));
    if (!mark) return null;
    return {
      pos: mark.from,
      end: mark.to,
      above: false,
      create: () => {
        const dom = document.createElement("div");
        dom.className = "line-hover";
        const title = dom.appendChild(document.createElement("b"));
        title.textContent = mark.title;
        for (const line of mark.lines) dom.appendChild(document.createElement("p")).textContent = line;
        return { dom };
      },
    };
  },
  { hoverTime: 350 },
);

const CARETS: readonly Completion[] = [
  { label: "1", detail: "dropped first" },
  { label: "2", detail: "dropped second" },
  { label: "keep", detail: "never dropped to save space" },
  { label: "apart", detail: "shown only to make texts unique" },
];

/** Fields, pieces and carets set off, errors underlined, completion on `{`, `:` and `^`. */
export function lineLanguage(infos: readonly FieldInfo[]): Extension {
  return [
    fieldInfos.of(infos),
    highlighter,
    hover,
    autocompletion({ override: [complete], icons: false, activateOnTyping: true, interactionDelay: 0 }),
  ];
}
