"use client";
import { Command } from "cmdk";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import type { Kind } from "../../core/design/kinds";
import type { SiteCard } from "../../server/sites/site-card";
import { call, wordsOf } from "./api";
import { useKindWord, useSite } from "./site-context";
import { shownKinds } from "./site-kinds";
import { openSite, siteId, sitePath, useRouter } from "./site-path";
import { PALETTE_BOX, PALETTE_HINT, PALETTE_INPUT } from "./palette-look";
import { VIEWS } from "./views";

const ITEM = "flex justify-between rounded-sm px-3 py-1.5 aria-selected:bg-cyan-pale";

/**
 * The list of every action by name.
 *
 * @param begun what was typed before it was there.
 */
export function PaletteDialog({ begun, onClose }: { begun: string; onClose: () => void }) {
  const kindWord = useKindWord();
  const router = useRouter();
  const { state, refresh } = useSite();
  const kinds = shownKinds(state);
  const [search, setSearch] = useState(begun);
  const [sites, setSites] = useState<readonly SiteCard[]>([]);
  useEffect(() => {
    void call("sites.list", {}).then(
      (list) => setSites(list.sites.filter(({ id }) => id !== siteId())),
      () => setSites([]),
    );
  }, []);
  const run = (action: () => void) => () => {
    onClose();
    action();
  };
  const save = (kind: Kind) =>
    call("designs.saveVersion", { kind, name: `Saved ${new Date().toLocaleString("en-GB")}` })
      .then(({ name }) => {
        toast(`Saved as version “${name}”`);
        refresh().catch(() => {});
      })
      .catch((error: unknown) => toast.error(wordsOf(error)));
  return (
    <Command.Dialog open onOpenChange={(open) => !open && onClose()} label="Actions" className={PALETTE_BOX}>
      <Command.Input value={search} onValueChange={setSearch} placeholder={PALETTE_HINT} className={PALETTE_INPUT} />
      {/* Not in the list: a list without options is none. */}
      <Command.Empty className="px-3 py-2 text-soft">No matches</Command.Empty>
      <Command.List className="max-h-80 overflow-auto">
        {VIEWS.map((view) => (
          <Command.Item key={view.path} className={ITEM} onSelect={run(() => router.push(view.path))}>
            Go to {view.label} <kbd className="text-soft">Alt {view.key}</kbd>
          </Command.Item>
        ))}
        {sites.map(({ id, name }) => (
          <Command.Item key={`site ${id}`} className={ITEM} onSelect={run(() => openSite(id))}>
            Go to the site {name}
          </Command.Item>
        ))}
        <Command.Item className={ITEM} onSelect={run(() => openSite(""))}>
          All sites
        </Command.Item>
        {kinds.map((kind) => (
          <Command.Item key={kind} className={ITEM} onSelect={run(() => router.push(`/bench?kind=${kind}&text=title`))}>
            Design {kindWord(kind, 2)} on the Bench
          </Command.Item>
        ))}
        {kinds.map((kind) => (
          <Command.Item key={`save ${kind}`} className={ITEM} onSelect={run(() => void save(kind))}>
            Save the draft for {kindWord(kind, 2)} as a version
          </Command.Item>
        ))}
        {kinds.map((kind) => (
          <Command.Item
            key={`compare ${kind}`}
            className={ITEM}
            onSelect={run(() => router.push(`/compare?kind=${kind}`))}
          >
            Compare versions for {kindWord(kind, 2)}
          </Command.Item>
        ))}
        <Command.Item className={ITEM} onSelect={run(() => window.location.assign(sitePath("/api/files/lines")))}>
          Export the lines file
        </Command.Item>
        <Command.Item className={ITEM} onSelect={run(() => router.push("/connection"))}>
          Connection to the live site
        </Command.Item>
        <Command.Item className={ITEM} onSelect={run(() => router.push("/live"))}>
          Check the live pages
        </Command.Item>
        <Command.Item className={ITEM} onSelect={run(() => router.push("/lines"))}>
          Import a lines file
        </Command.Item>
        <Command.Item
          className={ITEM}
          onSelect={run(() => window.location.assign(sitePath("/api/out/items?format=csv")))}
        >
          Export all pages as CSV
        </Command.Item>
        <Command.Item
          className={ITEM}
          onSelect={run(() => window.location.assign(sitePath("/api/out/items?format=jsonl")))}
        >
          Export all pages as JSON Lines
        </Command.Item>
        <Command.Item
          className={ITEM}
          onSelect={run(() => window.location.assign(sitePath("/api/out/redirect-set?form=csv")))}
        >
          Export the current redirects
        </Command.Item>
        {state.site && Object.values(state.site.extras).includes(true) && (
          <Command.Item
            className={ITEM}
            onSelect={run(() => window.location.assign(sitePath("/api/out/extras?format=csv")))}
          >
            Export the extra texts as CSV
          </Command.Item>
        )}
      </Command.List>
    </Command.Dialog>
  );
}
