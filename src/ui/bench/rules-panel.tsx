"use client";
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Ellipsis, GripVertical, Plus } from "lucide-react";
import { MenuItem } from "../shell/menu-item";
import { DropdownMenu } from "radix-ui";
import { type KeyboardEvent, type ReactNode, useRef } from "react";
import { type KindDesign, type Rule } from "../../core/design/design";
import { type Kind, type TextName } from "../../core/design/kinds";
import { checkedCondition } from "../../core/rules/condition-shape";
import { type RuleReport, type RulesReport } from "../../core/rules/report";
import { conditionWords } from "../../core/rules/words";
import { count, counted } from "../shell/format";
import { useKindWord } from "../shell/site-context";
import { SideFold } from "../shell/side-fold";
import { Term } from "../shell/term";

/** What can be done to a rule from its card. */
export interface RuleActions {
  readonly edit: (id: string) => void;
  readonly move: (id: string, place: number) => void;
  readonly copy: (id: string) => void;
  readonly toggle: (id: string) => void;
  readonly remove: (id: string) => void;
  readonly add: () => void;
}

/** A kind's rules in their order, with how many pages each takes and those that never win; below them the base. */
export function RulesPanel(props: {
  kind: Kind;
  text: TextName;
  design: KindDesign;
  report: RulesReport | null;
  total: number;
  chosen: string;
  onChoose: (owner: string) => void;
  actions: RuleActions;
}) {
  const kindWord = useKindWord();
  const { kind, text, design, report, total, chosen, actions } = props;
  const list = useRef<HTMLDivElement>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const names = new Map(design.rules.map((rule) => [rule.id, rule.name]));
  const reports = new Map(report?.rules.map((rule) => [rule.id, rule]));
  const ids = design.rules.map((rule) => rule.id);
  const baseName = design.rules.length === 0 ? `All ${kindWord(kind, 2)}` : "Everything else";
  const chosenName = design.rules.find(({ id }) => id === chosen)?.name ?? baseName;
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) actions.move(String(active.id), ids.indexOf(String(over.id)));
  };
  const focusCard = (step: number) => {
    const cards = [...(list.current?.querySelectorAll<HTMLElement>("[data-card]") ?? [])];
    const at = cards.indexOf(document.activeElement as HTMLElement);
    cards[Math.max(0, Math.min(cards.length - 1, at + step))]?.focus();
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const id = (event.target as HTMLElement).dataset["card"];
    if (id === undefined) return;
    const place = ids.indexOf(id);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined && event.altKey && place >= 0) actions.move(id, place + step);
    else if (step !== undefined) focusCard(step);
    else if (place < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === "Delete") actions.remove(id);
    else if (event.key === "e") actions.edit(id);
    else if (event.key === "d") actions.copy(id);
    else if (event.key === "o") actions.toggle(id);
    else return;
    event.preventDefault();
  };
  return (
    <nav
      aria-label={`Rules for ${kindWord(kind, 2)}`}
      className="desk-first desk-steady desk-folds flex min-h-0 flex-col border-r border-hair"
      onKeyDown={onKeyDown}
    >
      <SideFold label="Rules" now={chosenName}>
        <h2 className="px-3 pb-1.5 pt-3 text-[12px] font-semibold text-soft">
          <Term of="rule">Rules</Term>, the first match wins
        </h2>
        <div ref={list} className="min-h-0 flex-1 space-y-2 overflow-auto px-3 pb-3 pt-1">
          <DndContext id="rules" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
            <SortableContext items={ids} strategy={verticalListSortingStrategy}>
              {design.rules.map((rule, place) => (
                <RuleCard
                  key={rule.id}
                  rule={rule}
                  place={place}
                  last={place === ids.length - 1}
                  text={text}
                  report={reports.get(rule.id) ?? null}
                  names={names}
                  total={total}
                  chosen={chosen === rule.id}
                  onChoose={props.onChoose}
                  actions={actions}
                />
              ))}
            </SortableContext>
          </DndContext>
          <Card id="base" chosen={!ids.includes(chosen)} onChoose={props.onChoose} dashed>
            <Heading name={baseName} value={report ? report.base[text] || report.unset[text] : null} />
            <span className="block text-[12px] leading-snug text-soft">The base lines</span>
            {report && report.unset[text] > 0 && (
              <span className="block text-[12px] leading-snug text-magenta">
                No line sets the {text} of {counted(report.unset[text], "page", "pages")}; the live text stays
              </span>
            )}
            <Share value={report ? report.base[text] : 0} total={total} />
          </Card>
          <button
            type="button"
            className="flex items-center gap-1.5 px-2 py-1.5 text-soft hover:text-key"
            onClick={actions.add}
          >
            <Plus size={14} aria-hidden="true" /> Add a rule
          </button>
        </div>
      </SideFold>
    </nav>
  );
}

function RuleCard(props: {
  rule: Rule;
  place: number;
  last: boolean;
  text: TextName;
  report: RuleReport | null;
  names: ReadonlyMap<string, string>;
  total: number;
  chosen: boolean;
  onChoose: (owner: string) => void;
  actions: RuleActions;
}) {
  const { rule, place, text, report, total, actions } = props;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: rule.id,
  });
  const sets = rule[text] !== undefined && rule[text].trim() !== "";
  const taken = report ? (sets ? (report.byText[text] ?? 0) : report.takes) : null;
  return (
    <div
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`group relative ${isDragging ? "z-10 opacity-80" : ""}`}
    >
      <Card id={rule.id} chosen={props.chosen} onChoose={props.onChoose} dimmed={rule.off ?? false}>
        <Heading
          name={rule.name || "Rule without a name"}
          value={rule.off ? null : taken}
          magenta={report?.idle === "hidden" || report?.idle === "matches nothing"}
        />
        <span className="line-clamp-3 block text-[12px] leading-snug text-soft">
          {conditionWords(checkedCondition(rule.when))}
        </span>
        <Trouble report={report} names={props.names} sets={sets} text={text} />
        <Share value={rule.off ? 0 : (taken ?? 0)} total={total} />
      </Card>
      <button
        type="button"
        ref={setActivatorNodeRef}
        {...attributes}
        {...listeners}
        aria-label={`Move “${rule.name}”`}
        className="absolute bottom-1.5 left-[-11px] top-1.5 w-[13px] touch-none rounded-sm text-faint opacity-0 focus-visible:opacity-100 group-focus-within:opacity-100 group-hover:opacity-100"
      >
        <GripVertical size={13} aria-hidden="true" />
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`Actions with “${rule.name}”`}
          className="absolute bottom-1 right-1 rounded-sm p-0.5 text-faint opacity-0 hover:text-key focus-visible:opacity-100 group-focus-within:opacity-100 group-hover:opacity-100 data-[state=open]:opacity-100"
        >
          <Ellipsis size={15} aria-hidden="true" />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-40 min-w-52 rounded-sm border border-key bg-sheet py-1 shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
          >
            <MenuItem label="Edit the condition" hint="E" onSelect={() => actions.edit(rule.id)} />
            <MenuItem label="Duplicate" hint="D" onSelect={() => actions.copy(rule.id)} />
            <MenuItem label={rule.off ? "Switch on" : "Switch off"} hint="O" onSelect={() => actions.toggle(rule.id)} />
            <MenuItem
              label="Move up"
              hint="Alt ↑"
              disabled={place === 0}
              onSelect={() => actions.move(rule.id, place - 1)}
            />
            <MenuItem
              label="Move down"
              hint="Alt ↓"
              disabled={props.last}
              onSelect={() => actions.move(rule.id, place + 1)}
            />
            <MenuItem label="Delete" hint="Del" onSelect={() => actions.remove(rule.id)} />
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

/** Why a rule decides nothing, and whom its pages go to instead. */
function Trouble({
  report,
  names,
  sets,
  text,
}: {
  report: RuleReport | null;
  names: ReadonlyMap<string, string>;
  sets: boolean;
  text: TextName;
}) {
  if (report?.idle === "off")
    return (
      <span className="block text-[12px] leading-snug text-faint">
        Switched off; would match {count(report.matches)}
      </span>
    );
  if (report?.idle === "sets nothing")
    return <span className="block text-[12px] leading-snug text-magenta">Sets no line yet</span>;
  if (report?.idle === "matches nothing")
    return <span className="block text-[12px] leading-snug text-magenta">Matches no page</span>;
  if (report?.idle === "hidden") {
    const [first, ...others] = report.hiddenBy;
    return (
      <span className="block text-[12px] leading-snug text-magenta">
        Never applies: {first ? names.get(first.id) : "rules above"}{" "}
        {others.length === 0
          ? `matches all ${count(report.matches)}`
          : `matches ${count(first!.items)}, others the rest of its ${count(report.matches)}`}
      </span>
    );
  }
  if (!sets)
    return <span className="block text-[12px] leading-snug text-faint">No {text} line; the next match decides</span>;
  return null;
}

function Card({
  id,
  chosen,
  dashed,
  dimmed,
  onChoose,
  children,
}: {
  id: string;
  chosen: boolean;
  dashed?: boolean;
  dimmed?: boolean;
  onChoose: (owner: string) => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      data-card={id}
      aria-pressed={chosen}
      onClick={() => onChoose(id)}
      className={`block w-full rounded-[3px] border px-2.5 pb-2.5 pt-1.5 text-left ${dimmed ? "bg-raised" : "bg-sheet"} ${chosen ? "border-key shadow-[3px_3px_0_var(--key)]" : `${dashed ? "border-dashed border-faint" : "border-hair"} hover:border-key`}`}
    >
      {children}
    </button>
  );
}

function Heading({ name, value, magenta }: { name: string; value: number | null; magenta?: boolean }) {
  return (
    <span className="flex items-baseline justify-between gap-2">
      <b className="min-w-0 break-words font-semibold">{name}</b>
      {/* The number comes later: its place is kept, so that the name does not break then. */}
      <span className={`min-w-[6ch] shrink-0 text-right ${magenta ? "text-magenta" : ""}`}>
        {value === null ? "" : count(value)}
      </span>
    </span>
  );
}

/** What share of the kind's pages a rule decides. */
function Share({ value, total }: { value: number; total: number }) {
  return (
    <span aria-hidden="true" className="mt-1.5 block h-[3px] bg-hair">
      <span className="block h-full bg-key" style={{ width: `${total === 0 ? 0 : (value / total) * 100}%` }} />
    </span>
  );
}
