import { AlertDialog, DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { SiteCard } from "../../server/sites/site-card";
import { MAIN_ACTION, PLAIN_ACTION } from "../shell/actions";
import { useAfterMenu } from "../shell/after-menu";
import { call } from "../shell/api";
import { ago, counted } from "../shell/format";
import { MENU, MenuItem } from "../shell/menu-item";
import { megabytes } from "./megabytes";
import type { Doing } from "./doing";

/** One site: what it is, how far work on it is, and what can be done with it as a whole. */
export function SiteRow({ site, keptDays, doing }: { site: SiteCard; keptDays: number; doing: Doing }) {
  const [asking, setAsking] = useState<Asking | null>(null);
  const { afterMenu, onCloseAutoFocus } = useAfterMenu();
  return (
    <li className="flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-hair px-4 py-3">
      <div className="min-w-52 flex-1">
        <a
          href={`/${site.id}`}
          className="text-[16px] font-bold underline decoration-hair underline-offset-4 hover:decoration-key"
        >
          {site.name}
        </a>
        <p className="text-[12.5px] text-soft">{site.address || `/${site.id}`}</p>
      </div>
      {site.trouble === null ? (
        <dl className="grid grid-cols-[92px_116px_minmax(0,150px)_84px] gap-x-4 text-right text-[13px] small:flex small:flex-wrap">
          <Figure name="Pages" value={counted(site.pages, "page", "pages")} />
          <Figure
            name="Lines"
            value={site.lines === 0 ? "no lines yet" : counted(site.lines, "line drafted", "lines drafted")}
          />
          <Figure name="Last run" value={site.lastRun ? `run ${ago(site.lastRun.at)}` : "no run yet"} />
          <Figure name="Size" value={megabytes(site.bytes)} />
        </dl>
      ) : (
        <p role="alert" className="max-w-[420px] text-[13px] text-magenta">
          {site.trouble}
        </p>
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className={PLAIN_ACTION} aria-label={`What can be done with ${site.name}`}>
          …
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={4} className={MENU} onCloseAutoFocus={onCloseAutoFocus}>
            <MenuItem
              label="Duplicate"
              onSelect={() => void doing(`Duplicating ${site.name} …`, () => call("sites.duplicate", { id: site.id }))}
            />
            <MenuItem
              label="Export as one file"
              onSelect={() => window.location.assign(`/api/sites/${site.id}/file`)}
            />
            <MenuItem
              label="Back up now"
              onSelect={() => void doing(`Backing ${site.name} up …`, () => call("sites.backUp", { id: site.id }))}
            />
            {site.isDemo && <MenuItem label="Reset …" onSelect={() => afterMenu(() => setAsking("renew"))} />}
            <MenuItem label="Remove …" onSelect={() => afterMenu(() => setAsking("remove"))} />
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <AlertDialog.Root open={asking !== null} onOpenChange={(open) => !open && setAsking(null)}>
        {asking && <Asked asking={asking} site={site} keptDays={keptDays} doing={doing} />}
      </AlertDialog.Root>
    </li>
  );
}

/** What is asked before a site is moved aside. */
type Asking = "remove" | "renew";

const QUESTIONS = {
  remove: {
    title: "Remove",
    then: "",
    leave: "Cancel",
    action: "Remove site",
    busy: "Removing",
    call: (id: string) => call("sites.remove", { id }),
  },
  renew: {
    title: "Reset",
    then: "The demo site goes back to its original state.",
    leave: "Cancel",
    action: "Reset the demo site",
    busy: "Resetting",
    call: (id: string) => call("sites.renewDemo", { id }),
  },
} as const satisfies Record<Asking, object>;

function Asked({ asking, site, keptDays, doing }: { asking: Asking; site: SiteCard; keptDays: number; doing: Doing }) {
  const question = QUESTIONS[asking];
  return (
    <AlertDialog.Portal>
      <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
      <AlertDialog.Content className="fixed left-1/2 top-1/3 z-50 w-[460px] max-w-[calc(100vw-2rem)] -translate-x-1/2 rounded border border-key bg-sheet p-5">
        <AlertDialog.Title className="text-[17px] font-bold">
          {question.title} {site.name}?
        </AlertDialog.Title>
        <AlertDialog.Description className="mt-2">
          It is moved aside, with its {counted(site.pages, "page", "pages")}, lines and runs, and can be restored for{" "}
          {keptDays} days. Then it is gone. {question.then}
        </AlertDialog.Description>
        <div className="mt-4 flex justify-end gap-2">
          <AlertDialog.Cancel className={PLAIN_ACTION}>{question.leave}</AlertDialog.Cancel>
          <AlertDialog.Action
            className={MAIN_ACTION}
            onClick={() => void doing(`${question.busy}: ${site.name} …`, () => question.call(site.id))}
          >
            {question.action}
          </AlertDialog.Action>
        </div>
      </AlertDialog.Content>
    </AlertDialog.Portal>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="sr-only">{name}</dt>
      <dd>{value}</dd>
    </div>
  );
}
