"use client";
import { type ToggleEvent, useState } from "react";
import type { SiteCard } from "../../server/sites/site-card";
import { call } from "./api";
import { counted } from "./format";
import { usePopUnder } from "./pop-under";
import { siteId } from "./site-path";

const ROW = "flex justify-between gap-6 px-3 py-1.5 hover:bg-cyan-pale focus-visible:bg-cyan-pale";

/** The site's name in the bar, and from it the links to the others. They load anew: all that this window holds is of this site. */
export function SiteMenu({ name }: { name: string }) {
  const [sites, setSites] = useState<readonly SiteCard[]>([]);
  const [isOpen, setOpen] = useState(false);
  const { trigger, pop } = usePopUnder<HTMLDivElement>();
  const toggled = (event: ToggleEvent) => {
    const opens = event.newState === "open";
    setOpen(opens);
    if (opens)
      void call("sites.list", {}).then(
        (all) => setSites(all.sites.filter(({ id }) => id !== siteId())),
        () => setSites([]),
      );
  };
  return (
    <>
      <button
        {...trigger}
        type="button"
        aria-expanded={isOpen}
        aria-label={`${name}: other sites`}
        className="mr-3 flex max-w-44 shrink-0 items-baseline gap-1.5 rounded-sm px-1 font-bold hover:bg-bar-raised"
      >
        <span className="truncate">{name}</span>
        <span aria-hidden="true" className="text-bar-soft">
          ▾
        </span>
      </button>
      <div
        {...pop}
        onToggle={toggled}
        className="fixed m-0 max-h-[70vh] min-w-44 overflow-auto rounded-sm border border-key bg-sheet py-1 text-key shadow-[4px_4px_0_rgb(20_33_42/0.18)]"
      >
        <nav aria-label="Other sites">
          <ul>
            {sites.map((site) => (
              <li key={site.id}>
                <a href={`/${site.id}`} className={ROW}>
                  {site.name} <span className="narrow text-faint">{counted(site.pages, "page", "pages")}</span>
                </a>
              </li>
            ))}
            <li className={sites.length > 0 ? "mt-1 border-t border-hair pt-1" : ""}>
              {/* All sites are another page of the program: nothing of this site comes along. */}
              <a href="/" className={ROW}>
                All sites
              </a>
            </li>
          </ul>
        </nav>
      </div>
    </>
  );
}
