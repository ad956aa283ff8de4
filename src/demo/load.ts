import { kindDesignSchema } from "../core/design/schema";
import { type Db } from "../store/open";
import { writeDraft } from "../store/drafts";
import { itemWriter } from "../store/bring-items";
import { keywordWriter } from "../store/listed-keywords";
import { addRedirects } from "../store/redirects";
import { demoKeywords } from "./keyword-list";
import { linkDemoNotes } from "./links";
import { nameDemoCanonicals } from "./canonicals";
import { demoRedirects } from "./past";
import { nextRevision, writeSite } from "../store/site";
import { DEMO_LINES, DEMO_RULES, DEMO_SITE, demoItems } from "./site";

/** Fills an empty database with the demo site, in batches; tells how many items are in. */
export function loadDemo(
  db: Db,
  options: { products?: number; seed?: number; progress?: (items: number) => void } = {},
): number {
  writeSite(db, DEMO_SITE);
  const put = itemWriter(db);
  const items = demoItems(options);
  const now = new Date().toISOString();
  const paths: string[] = [];
  let count = 0;
  let done = false;
  while (!done) {
    db.transaction(() => {
      const revision = nextRevision(db);
      for (let i = 0; i < 5000; i++) {
        const next = items.next();
        if (next.done) {
          done = true;
          return;
        }
        put(next.value, revision);
        if (next.value.kind === "product") paths.push(next.value.path ?? "");
        count++;
      }
    }).immediate();
    options.progress?.(count);
  }
  db.transaction(() => {
    const list = keywordWriter(db);
    for (const { keyword, volume, columns } of demoKeywords()) list(keyword, volume, columns);
  }).immediate();
  for (const [kind, lines] of Object.entries(DEMO_LINES)) {
    const base = Object.fromEntries(Object.entries(lines).filter(([, line]) => line !== ""));
    writeDraft(db, kind, kindDesignSchema.parse({ base, rules: DEMO_RULES[kind] ?? [], moves: "all" }), now);
  }
  addRedirects(db, demoRedirects(paths), "file", now);
  db.transaction(() => {
    linkDemoNotes(db);
    nameDemoCanonicals(db, DEMO_SITE.baseUrl);
  }).immediate();
  return count;
}
