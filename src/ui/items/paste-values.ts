import { toast } from "sonner";
import { type Ranges } from "../../core/items/query";
import { type Edits } from "../shell/edits";
import { counted } from "../shell/format";
import { type ItemColumn } from "./columns";
import { type CellPlace } from "./list-props";
import { PAGE_TOOLS } from "./page-tools-later";
import { type Chosen } from "./use-chosen";
import { type ItemsData } from "./use-items";

/** Puts what was copied elsewhere on pages: one value on the cell's page or on all that are chosen, several each on a page of its own. */
export async function pasteValues(
  text: string,
  { place }: CellPlace,
  column: ItemColumn,
  {
    data,
    edits,
    chosen: { number, chosen, setChosen, editTogether },
  }: { data: ItemsData; edits: Edits; chosen: Chosen },
): Promise<void> {
  const { pastedValues } = await PAGE_TOOLS.get();
  const values = pastedValues(text);
  const field = column.edits!;
  if (values.length === 1 && number === 0) {
    const item = data.items.get(place);
    if (item) void edits.make({ kind: item.kind, id: item.id }, { type: "set", field, value: values[0]! });
    return;
  }
  if (values.length === 1) {
    editTogether({ ranges: chosen, start: { way: "set", field, pasted: values[0]! } });
    return;
  }
  // With no page chosen the lines begin at the page that the cell is of.
  const to = Math.min(data.total, place + values.length);
  if (number === 0 && to - place < values.length)
    toast(
      `${counted(values.length, "line", "lines")} pasted, and ${counted(to - place, "page", "pages")} from here to the end of the list`,
    );
  const ranges: Ranges = number === 0 ? [[place, to]] : chosen;
  if (number === 0) setChosen(ranges);
  editTogether({ ranges, start: { way: "paste", field, pasted: text } });
}
