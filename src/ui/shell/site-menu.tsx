import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import type { SiteCard } from "../../server/sites/site-card";
import { call } from "./api";
import { counted } from "./format";
import { MENU, MenuItem } from "./menu-item";
import { siteId } from "./site-path";

/** Goes to another site. All that this window holds is of this one, so the page is loaded anew. */
export function openSite(id: string): void {
  window.location.assign(`/${id}`);
}

/** The site's name in the bar, and from it the way to the others. */
export function SiteMenu({ name }: { name: string }) {
  const [sites, setSites] = useState<readonly SiteCard[] | null>(null);
  const load = () =>
    void call("sites.list", {}).then(
      (list) => setSites(list.sites),
      () => setSites([]),
    );
  const others = sites?.filter(({ id }) => id !== siteId()) ?? [];
  return (
    <DropdownMenu.Root onOpenChange={(open) => open && load()}>
      <DropdownMenu.Trigger
        aria-label={`${name}: other sites`}
        className="mr-3 flex max-w-44 shrink-0 items-baseline gap-1.5 rounded-sm px-1 font-bold hover:bg-bar-raised"
      >
        <span className="truncate">{name}</span>
        <span aria-hidden="true" className="text-bar-soft">
          ▾
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={6} className={MENU}>
          {others.map((site) => (
            <MenuItem
              key={site.id}
              label={site.name}
              hint={counted(site.pages, "page", "pages")}
              onSelect={() => openSite(site.id)}
            />
          ))}
          {others.length > 0 && <DropdownMenu.Separator className="my-1 border-t border-hair" />}
          <MenuItem label="All sites" onSelect={() => openSite("")} />
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
