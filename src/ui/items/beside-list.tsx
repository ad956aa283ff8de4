"use client";
import { type Site } from "../../core/design/design";
import { type Choice, type Edits } from "../shell/edits";
import { type Ranges } from "../../core/items/query";
import { chosenCount } from "./chosen-places";
import { focusList } from "./focus-list";
import { type PAGE_TOOLS } from "./page-tools-later";
import { type Chosen } from "./use-chosen";

/** What opens beside the list: the panel that edits many pages, or one page's sheet. */
export function BesideList({
  tools,
  chosen: { panel, closePanel },
  choiceOf,
  edits,
  site,
  stamp,
  item,
  onCloseItem,
}: {
  tools: NonNullable<ReturnType<typeof PAGE_TOOLS.current>>;
  chosen: Chosen;
  choiceOf: (ranges: Ranges) => Choice;
  edits: Edits;
  site: Site;
  /** Of all that a sheet shows. */
  stamp: string;
  /** The page whose sheet is open, `""` for none. */
  item: string;
  onCloseItem: () => void;
}) {
  if (panel)
    return (
      <tools.EditPanel
        key={JSON.stringify(panel)}
        choice={choiceOf(panel.ranges)}
        number={chosenCount(panel.ranges)}
        start={panel.start}
        onMake={(action) => edits.make(choiceOf(panel.ranges), action)}
        onClose={() => {
          closePanel();
          focusList();
        }}
      />
    );
  if (item === "") return null;
  return (
    <tools.ItemSheet
      item={item}
      site={site}
      stamp={stamp}
      onEdit={edits.make}
      onClose={() => {
        onCloseItem();
        focusList();
      }}
    />
  );
}
