import { type ReactNode } from "react";
import { type Node } from "../../core/lines/ast";
import { parseLine } from "../../core/lines/parse";

/** A line as it reads at a glance: fields without their braces, set off as in the editor. */
export function LineText({ source }: { source: string }) {
  return <span className="break-words font-mono text-[13px]">{draw(parseLine(source).nodes, source)}</span>;
}

function draw(nodes: readonly Node[], source: string): ReactNode[] {
  return nodes.map((node, i) => {
    if (node.type === "text") return node.value;
    if (node.type === "field") {
      return (
        <span key={i} className="line-field px-0.5">
          {source.slice(node.from + 1, node.to - 1)}
        </span>
      );
    }
    return (
      <span key={i}>
        <span className="line-bracket">[</span>
        {node.alternatives.map((nodes, a) => (
          <span key={a}>
            {a > 0 && <span className="line-bracket">||</span>}
            {draw(nodes, source)}
          </span>
        ))}
        <span className="line-bracket">]</span>
        {node.caret && <span className="line-caret">{source.slice(node.caret.from + 1, node.caret.to)}</span>}
      </span>
    );
  });
}
