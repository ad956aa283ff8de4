"use client";
import { Later, useLater } from "../shell/later";
import { Tabs } from "../shell/tabs";
import { MovesFace } from "./moves-face";
import { type AddressesView, FACES, useAddressesView } from "./addresses-url";

const LABELS: Record<AddressesView["face"], string> = { moves: "Moves", redirects: "Redirects", links: "Links" };

const REDIRECTS = new Later(() => import("./redirects-face"));
const LINKS = new Later(() => import("./links-face"));

/**
 * Where the site’s pages go, where they were, and what leads to them: moves, redirects, and the links of bodies.
 *
 * @param opened another one each time that the screen is opened.
 */
export function Addresses({ opened }: { opened: string }) {
  const [{ face }, setView] = useAddressesView();
  const redirects = useLater(REDIRECTS, face === "redirects");
  const links = useLater(LINKS, face === "links");
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
        {face === "moves" && <MovesFace opened={opened} />}
        {face === "redirects" && redirects && <redirects.RedirectsFace />}
        {face === "links" && links && <links.LinksFace />}
      </Tabs>
    </div>
  );
}
