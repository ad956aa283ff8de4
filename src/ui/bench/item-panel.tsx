"use client";
import { DropdownMenu } from "radix-ui";
import { type KindDesign, type Site } from "../../core/design/design";
import { type TextName } from "../../core/design/kinds";
import { rulesFromItem, type SuggestedRule } from "../../core/design/rule-from-item";
import { checkedCondition } from "../../core/rules/condition-shape";
import { conditionWords } from "../../core/rules/words";
import type { BenchRow } from "../../server/bench/bench-row";
import { type ItemProofs } from "./item-proofs";
import { MenuItem } from "../shell/menu-item";
import { Why } from "../proof/why";
import { type ExplainedProof } from "../../core/proof/row-proof";
import { roomOf } from "../../core/proof/site-room";

/** One item at the side: where its keyword stands, why it got its text, what the site has now. */
export function ItemPanel({
  row,
  proofs,
  text,
  site,
  design,
  onMakeRule,
}: {
  row: BenchRow;
  proofs: ItemProofs;
  text: TextName;
  site: Site;
  design: KindDesign;
  onMakeRule: (suggested: SuggestedRule) => void;
}) {
  const keyword = row.fields["keyword"] ?? "";
  const own = proofs.texts[text];
  const { unit, width } = roomOf(site, text);
  return (
    <div className="space-y-4 p-3.5">
      <section aria-label="The page">
        <h2 className="font-[family-name:var(--font-desktop)] font-bold leading-snug">{row.fields["name"]}</h2>
        <p className="narrow text-[12px] text-soft">{row.fields["category.path"]}</p>
        <MakeRule fields={row.fields} onMakeRule={onMakeRule} />
      </section>
      <section aria-label="Keyword">
        {keyword ? (
          <>
            <h2 className="mb-1.5 text-[12px] font-semibold text-soft">Where “{keyword}” appears</h2>
            <Places proofs={proofs} />
          </>
        ) : (
          <p className="text-faint">This page has no focus keyword</p>
        )}
      </section>
      <section aria-label={`Why this ${text}`}>
        <h2 className="mb-1 text-[12px] font-semibold text-soft">Why this {text}</h2>
        <Why proof={own} design={design} text={text} width={width} unit={unit} />
      </section>
      <section aria-label="Live now">
        <h2 className="mb-1 text-[12px] font-semibold text-soft">Live now</h2>
        <p
          className="break-words text-soft"
          style={{ fontFamily: text === "slug" ? "var(--font-mono)" : "var(--font-desktop)" }}
        >
          {text === "slug" ? row.path : row.live[text] || <span className="text-magenta">Nothing</span>}
        </p>
      </section>
    </div>
  );
}

/** From one page to a rule for all like it: its category, those above it, its attributes. */
function MakeRule({
  fields,
  onMakeRule,
}: {
  fields: BenchRow["fields"];
  onMakeRule: (suggested: SuggestedRule) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="mt-1 rounded-sm border border-edge bg-sheet px-2 py-0.5 text-soft hover:border-key hover:text-key">
        Create a rule from this
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-40 max-h-80 min-w-56 overflow-auto rounded-sm border border-key bg-sheet py-1 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
        >
          {rulesFromItem(fields).map((suggested) => (
            <MenuItem
              key={JSON.stringify(suggested.when)}
              label={conditionWords(checkedCondition(suggested.when))}
              onSelect={() => onMakeRule(suggested)}
            />
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Places({ proofs: { texts, intro, name } }: { proofs: ItemProofs }) {
  const { title, description, slug } = texts;
  const cells: { label: string; value: string; there: boolean; bad?: boolean }[] = [
    {
      label: "title",
      value: place(title.keyword),
      there: has(title.keyword),
      bad: has(title.keyword) && !title.keyword!.seen,
    },
    {
      label: "from left",
      value: has(title.keyword) ? `${Math.round(title.keyword!.start)} px` : "–",
      there: has(title.keyword),
    },
    {
      label: "descr.",
      value: place(description.keyword),
      there: has(description.keyword),
      bad: has(description.keyword) && !description.keyword!.seen,
    },
    {
      label: "slug",
      value: slug.keyword && slug.keyword.form !== "absent" && slug.keyword.form !== "partial" ? "yes" : "–",
      there: slug.keyword !== null && slug.keyword.form !== "absent" && slug.keyword.form !== "partial",
    },
    { label: "H1", value: has(name) ? "yes" : "–", there: has(name) },
    { label: "intro", value: has(intro) ? "yes" : "–", there: has(intro) },
  ];
  return (
    <dl className="grid grid-cols-3 gap-1.5">
      {cells.map((cell) => (
        <div
          key={cell.label}
          className={`rounded-sm border px-1 py-1 text-center ${cell.there ? "border-hair bg-sheet" : "border-dashed border-faint"}`}
        >
          <dt className="narrow text-[12px] text-soft">{cell.label}</dt>
          <dd className={`font-bold ${cell.bad ? "text-magenta" : cell.there ? "" : "text-faint"}`}>
            {cell.bad ? "cut off" : cell.value}
          </dd>
        </div>
      ))}
    </dl>
  );
}

function has(keyword: ExplainedProof["keyword"]): boolean {
  return keyword !== null && keyword.count > 0;
}

function place(keyword: ExplainedProof["keyword"]): string {
  if (!keyword || keyword.form === "absent") return "–";
  if (keyword.form === "partial") return "in part";
  if (keyword.form === "scattered") return "scattered";
  return keyword.word === 1 ? "1st" : `word ${keyword.word}`;
}
