import { type KindDesign } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { MOST_CHARACTERS } from "../../core/lines/filters";
import { type Step } from "../../core/proof/explain";
import { checkedCondition } from "../../core/rules/condition-shape";
import { conditionWords } from "../../core/rules/words";
import { count } from "../shell/format";
import { type ExplainedProof } from "../../core/proof/row-proof";

/** How a text came about: who decides it, what stands, what gave way and why. */
export function Why({
  proof,
  design,
  text,
  width,
  unit,
}: {
  proof: ExplainedProof;
  design: KindDesign;
  text: TextName;
  width: number;
  unit: "px" | "ch";
}) {
  return (
    <ol className="text-[12.5px]">
      {proof.from === "hand" && <li className="border-b border-hair py-1">Written by hand; no line replaces it</li>}
      <Decider own={proof} design={design} text={text} />
      {proof.from === "live" && <li className="border-b border-hair py-1">No line is set, so the live text stays</li>}
      {proof.why.map((step, i) => (
        <StepLine key={i} step={step} />
      ))}
      {proof.from === "line" && (
        <li className={`py-1 ${proof.fits || text === "slug" ? "" : "font-semibold text-magenta"}`}>
          {Math.round(proof.size)} of {width} {unit}
          {proof.fits
            ? ""
            : text === "slug"
              ? ", words cut from the right"
              : `, ${Math.max(1, Math.round(proof.over))} too wide`}
          {proof.estimated ? "; the width of characters outside the font is an estimate" : ""}
        </li>
      )}
    </ol>
  );
}

/** Whose line it is, and why it is that one. */
function Decider({ own, design, text }: { own: ExplainedProof; design: KindDesign; text: TextName }) {
  if (own.owner === null) return null;
  const rule = design.rules.find(({ id }) => id === own.owner);
  return (
    <li className="border-b border-hair py-1">
      {rule ? (
        <>
          Rule <b>{rule.name}</b>: {conditionWords(checkedCondition(rule.when))}
        </>
      ) : design.rules.length > 0 ? (
        `The base ${text} line: no rule for this page sets one`
      ) : (
        `The base ${text} line`
      )}
    </li>
  );
}

function StepLine({ step }: { step: Step }) {
  if (step.type === "left") {
    const why = {
      incomplete: "left out: a field in it is empty",
      room: "dropped: no room",
      "not needed": "not needed: the text is unique without it",
    }[step.why];
    return (
      <li className="border-b border-hair py-1 text-faint">
        <s className="font-mono text-[12px]">{step.piece}</s> {why}
      </li>
    );
  }
  if (step.type === "too long")
    return (
      <li className="border-b border-hair py-1 font-semibold text-magenta">
        The line makes more than {count(MOST_CHARACTERS)} characters, so nothing is written
      </li>
    );
  return (
    <li className="border-b border-hair py-1">
      “{step.text}”
      {step.type === "stands" ? (
        <span className="text-faint">
          {" "}
          {step.alternative > 0 ? `used, the ${ordinal(step.alternative + 1)} choice` : "used"}
        </span>
      ) : (
        ""
      )}
    </li>
  );
}

function ordinal(n: number): string {
  return n === 2 ? "second" : n === 3 ? "third" : `${n}th`;
}
