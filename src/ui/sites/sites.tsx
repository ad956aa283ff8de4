"use client";
import { useState } from "react";
import { toast } from "sonner";
import { Messages } from "../shell/messages";
import type { SiteList } from "../../server/sites/site-cases";
import { call, sendFile, wordsOf } from "../shell/api";
import { Mark } from "../shell/mark";
import type { Doing } from "./doing";
import { NewSite } from "./new-site";
import { Backups } from "./backups";
import { RemovedSites } from "./removed-sites";
import { SiteRow } from "./site-row";

/** Every site that is looked after here, and the ways to another one. */
export function Sites({ initial }: { initial: SiteList }) {
  const [list, setList] = useState(initial);
  const { sites, removed, backups, keptDays } = list;
  const [busy, setBusy] = useState<string | null>(null);
  const doing: Doing = async (words, work) => {
    setBusy(words);
    try {
      await work();
    } catch (error) {
      toast.error(wordsOf(error));
    }
    setList(await call("sites.list", {}).catch(() => list));
    setBusy(null);
  };
  const takeIn = (file: File) =>
    doing(`Importing ${file.name} …`, async () => {
      const { id } = await sendFile<{ id: string }>("/api/files/site", file);
      toast(`Imported as ${id}`);
    });
  return (
    <div className="flex h-full flex-col">
      <header className="bar flex h-11 shrink-0 items-center bg-bar px-4 font-bold text-bar-text">
        <Mark />
        Nine Lines
      </header>
      <main className="relative grid min-h-0 flex-1 content-start overflow-y-auto gap-x-10 gap-y-8 px-6 py-5 lg:grid-cols-[minmax(0,1fr)_330px]">
        <section aria-labelledby="sites-title">
          <h1 id="sites-title" className="text-[22px] font-bold">
            Sites
          </h1>
          <p className="text-soft">Each site is a file of its own; nothing is shared between them.</p>
          <ul className="mt-4 border-t border-key bg-sheet">
            {sites.map((site) => (
              <SiteRow key={site.id} site={site} keptDays={keptDays} doing={doing} />
            ))}
            {sites.length === 0 && <li className="border-b border-hair px-4 py-4 text-soft">There is no site yet.</li>}
          </ul>
          <p role="status" className="mt-2 h-5 text-soft">
            {busy}
          </p>
          <RemovedSites removed={removed} doing={doing} />
          <Backups backups={backups} sites={sites} doing={doing} />
        </section>
        <NewSite
          busy={busy !== null}
          onDemo={() => void doing("Creating the demo site …", () => call("sites.makeDemo", {}))}
          onFile={(file) => void takeIn(file)}
        />
      </main>
      <Messages />
    </div>
  );
}
