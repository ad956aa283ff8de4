"use client";
import { type CSSProperties, type MouseEvent } from "react";
import { type ListedItem } from "../../server/items/listed-item";
import { type Prover } from "../proof/prover";
import { counted } from "../shell/format";
import { Tick } from "../shell/tick";
import { chosenCount, isChosen, tickOf, within } from "./chosen-places";
import { TICK_WIDTH } from "./column-header";
import { type ItemColumn } from "./columns";
import { type SectionLine } from "./list-lines";
import { cellId, type CellPlace, type ItemsTableProps } from "./list-props";
import { type Choosing } from "./use-choosing";

/** The heading of the pages that follow, with a tick for all of them. */
export function SectionRow({ line, box, choosing }: { line: SectionLine; box: CSSProperties; choosing: Choosing }) {
  return (
    <div
      role="row"
      className="absolute left-0 top-0 flex w-full items-center gap-3 border-b border-key bg-raised pl-2.5"
      style={box}
    >
      <span role="gridcell" className="flex">
        <Tick
          checked={tickOf(chosenCount(within(choosing.chosen, line.from, line.from + line.count)), line.count)}
          label={`Select all in ${line.label}`}
          onChange={(on) => choosing.stretch(line.from, line.count, on)}
        />
      </span>
      <span role="gridcell" className="sticky left-10 font-bold">
        {line.label} <span className="font-normal text-soft">{counted(line.count, "page", "pages")}</span>
      </span>
    </div>
  );
}

interface RowProps {
  readonly prover: Prover | null;
  readonly place: number;
  readonly box: CSSProperties;
  readonly table: ItemsTableProps;
  readonly columns: readonly ItemColumn[];
  readonly widths: readonly number[];
  readonly choosing: Choosing;
}

/** A page with its cells; grey bars until it has come. */
export function PageRow({ place, box, table, columns, widths, choosing, prover }: RowProps) {
  const page = table.data.items.get(place);
  const isPicked = isChosen(choosing.chosen, place);
  const isOpen = page !== undefined && `${page.kind}-${page.id}` === table.view.item;
  const extend = (event: MouseEvent) => {
    if (!event.shiftKey) return;
    event.stopPropagation();
    event.preventDefault();
    choosing.extendTo(place);
  };
  return (
    <div
      role="row"
      aria-rowindex={place + 2}
      aria-selected={isPicked}
      className={`absolute left-0 top-0 flex w-full border-b border-hair ${isPicked || isOpen ? "bg-cyan-pale [--under:var(--cyan-pale)]" : "bg-sheet"}`}
      style={box}
    >
      <div
        role="gridcell"
        className="flex shrink-0 justify-center pt-1.5"
        style={{ width: TICK_WIDTH }}
        onClickCapture={extend}
      >
        <Tick
          checked={isPicked}
          label={`Select ${page?.name ?? "this page"}`}
          onChange={() => choosing.toggle(place)}
        />
      </div>
      {columns.map((column, i) => (
        <PageCell
          key={column.id}
          at={{ place, column: i }}
          page={page}
          column={column}
          width={widths[i]!}
          table={table}
          choosing={choosing}
          prover={prover}
        />
      ))}
    </div>
  );
}

interface CellProps {
  readonly prover: Prover | null;
  readonly at: CellPlace;
  readonly page: ListedItem | undefined;
  readonly column: ItemColumn;
  readonly width: number;
  readonly table: ItemsTableProps;
  readonly choosing: Choosing;
}

function PageCell({ at, page, column, width, table, choosing, prover }: CellProps) {
  const { view, site, onAt, onOpen, onEdit } = table;
  const isCurrent = at.place === table.at.place && at.column === table.at.column;
  const opens = column.id === "name";
  return (
    <div
      role="gridcell"
      id={cellId(at)}
      data-column={column.id}
      aria-readonly={column.edits === null}
      onMouseDown={() => {
        onAt(at);
        choosing.anchorAt(at.place);
      }}
      onClick={() => page && opens && onOpen(page)}
      onDoubleClick={(event) => page && (column.edits ? onEdit(page, column, event.currentTarget, null) : onOpen(page))}
      className={`min-w-0 shrink-0 overflow-hidden px-2 last:grow py-1.5 ${opens ? "cursor-pointer" : "cursor-default"} ${isCurrent ? "shadow-[inset_0_0_0_1px_var(--hair)] group-focus/grid:shadow-[inset_0_0_0_2px_var(--cyan-line)]" : ""}`}
      style={{ width }}
    >
      {page ? (
        column.cell({ item: page, side: view.side, look: view.look, site, prover })
      ) : (
        <span className="mt-1.5 block h-2.5 w-2/3 bg-hair" />
      )}
    </div>
  );
}
