"use client";
import { type SiteState } from "../../server/site/site-state";
import Link from "./link";
import { usePathname } from "next/navigation";
import { type ReactNode, useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { Messages } from "./messages";
import { useHeldFocus } from "./held-focus";
import { Jobs } from "./jobs";
import { Mark } from "./mark";
import { Palette } from "./palette";
import { Queries } from "./queries";
import { SiteMenu } from "./site-menu";
import { useSitePath } from "./site-path";
import { OTHER_BARS, VIEWS } from "./views";
import { useToastFocus } from "./toast-focus";
import { WaitsLine } from "./waits-line";
import { SiteProvider, useSite } from "./site-context";

/** How high a small screen keeps the bar for its actions, by how many rows of them there are: nothing below moves when they come. */
const BAR_HEIGHTS = ["", "small:min-h-10", "small:min-h-[72px]"] as const;

/** Pages are brought in from the Board, or by the palette: the bar holds what is gone to again and again. */
const IN_BAR = VIEWS.filter(({ path }) => path !== "/import");

/** What every screen stands in: the bar with the views and, at its right, what the screen puts there. */
export function Shell({ state, children }: { state: SiteState; children: ReactNode }) {
  useHeldFocus();
  useToastFocus();
  return (
    <Queries>
      <SiteProvider initial={state}>
        <div className="relative flex h-full flex-col overflow-clip">
          <Bar />
          <main className="relative min-h-0 flex-1 small:overflow-y-auto" id="view">
            {children}
          </main>
        </div>
        <Jobs />
        <WaitsLine />
        <Palette />
        <Messages />
      </SiteProvider>
    </Queries>
  );
}

function Bar() {
  const path = usePathname();
  const pathOf = useSitePath();
  const { state } = useSite();
  // What a view puts there comes a moment later: on a small screen its place is kept.
  const rows = [...VIEWS, ...OTHER_BARS].find((view) => pathOf(view.path) === path)?.barRows ?? 0;
  return (
    <header className="bar flex h-11 shrink-0 items-center gap-1 bg-bar px-4 text-bar-text small:h-auto small:flex-wrap small:px-3 small:py-1.5">
      <a href="#view" className="sr-only focus:not-sr-only focus:mr-3">
        Skip to content
      </a>
      <Mark />
      <SiteMenu name={state.site?.name || "Nine Lines"} />
      <nav aria-label="Views" className="narrow flex shrink-0 gap-0.5 small:-mx-1 small:w-full small:overflow-x-auto">
        {IN_BAR.map((view) => {
          const own = pathOf(view.path);
          const current = view.path === "/" ? path === own : path.startsWith(own);
          return (
            <Link
              key={view.path}
              href={view.path}
              aria-current={current ? "page" : undefined}
              className={`whitespace-nowrap rounded-sm px-2 py-1.5 ${current ? "bg-bar-raised text-bar-text" : "text-bar-soft hover:text-bar-text"}`}
            >
              {view.label}
            </Link>
          );
        })}
      </nav>
      <div
        id="bar-slot"
        className={`ml-auto flex min-w-0 items-center gap-2.5 small:ml-0 small:w-full small:flex-wrap small:content-start small:gap-y-1 small:pb-1 ${BAR_HEIGHTS[rows]}`}
      />
    </header>
  );
}

/** Puts a screen's own figures and actions into the bar. */
export function BarSlot({ children }: { children: ReactNode }) {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  useEffect(() => setSlot(document.getElementById("bar-slot")), []);
  return slot ? createPortal(children, slot) : null;
}
