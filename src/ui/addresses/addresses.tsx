"use client";
import { Tabs } from "../shell/tabs";
import { type AddressesView, FACES, useAddressesView } from "./addresses-url";
import { LinksFace } from "./links-face";
import { MovesFace } from "./moves-face";
import { RedirectsFace } from "./redirects-face";

const LABELS: Record<AddressesView["face"], string> = { moves: "Moves", redirects: "Redirects", links: "Links" };

/** Where the site’s pages were, and what leads to them: redirects, and the links of bodies. */
export function Addresses() {
  const [{ face }, setView] = useAddressesView();
  return (
    <div className="flex h-full min-h-0 flex-col small:overflow-auto">
      <h1 className="sr-only">Addresses</h1>
      <Tabs
        label="Addresses"
        tabs={FACES.map((own) => [own, LABELS[own]] as const)}
        tab={face}
        onTab={(next) => setView({ face: next })}
        panelClass="flex min-h-0 flex-1 flex-col small:flex-none"
      >
        {face === "moves" && <MovesFace />}
        {face === "redirects" && <RedirectsFace />}
        {face === "links" && <LinksFace />}
      </Tabs>
    </div>
  );
}
