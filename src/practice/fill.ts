import { loadDemo } from "../demo/load";
import { openStore } from "../store/open";
import { iterateRedirects } from "../store/redirects";
import { type PracticePage, type PracticeStore } from "./practice-store";

/** A page of the demo site’s database. */
interface DemoRow extends Omit<PracticePage, "id" | "changedAt" | "version"> {
  readonly key: string;
  readonly updated: string;
}

const EVERY_PAGE = `
  SELECT key, kind, path, name, title, description, robots, canonical, intro, coalesce(body, '') AS body, category,
    category_path AS "categoryPath", author, published, updated, price, attributes
  FROM items LEFT JOIN bodies ON item_id = id WHERE path IS NOT NULL ORDER BY id`;

/**
 * Fills an empty practice site with what the demo site’s file says is live.
 *
 * @param products how many products; all of the demo’s where it is left out.
 * @returns how many pages it has.
 */
export function fillPractice(store: PracticeStore, products?: number): number {
  const demo = openStore(":memory:");
  loadDemo(demo, products === undefined ? {} : { products });
  store.db.transaction(() => {
    for (const row of demo.prepare(EVERY_PAGE).iterate() as IterableIterator<DemoRow>) {
      const { key, updated, ...page } = row;
      const day = updated || page.published || "2024-01-01";
      store.put({ ...page, id: key, changedAt: `${day}T06:00:00Z`, version: 1 });
    }
    for (const { from, to, status, prefix } of iterateRedirects(demo))
      store.putRedirect({ from, to, status, isPrefix: prefix });
  })();
  demo.close();
  return store.count();
}

/** Every so many-th page was edited on the site since the demo's file was written. */
const EDITED_EVERY = 400;

/**
 * Edits some pages as people at the site would: what Nine Lines has of them is old then.
 *
 * @returns how many.
 */
export function plantDifferences(store: PracticeStore, now = new Date().toISOString()): number {
  const kinds = store.valuesOf("kind");
  const pages = kinds.flatMap((kind) =>
    store.pages({ sql: "kind = ?", value: kind }, { from: 0, count: store.count() }),
  );
  const edited = pages.filter((_, i) => i % EDITED_EVERY === EDITED_EVERY - 1);
  edited.forEach((page, i) => {
    const edits = [
      { title: `${page.name}, new this season` },
      { description: "Back in stock. Ask us about lengths by the metre." },
      { name: `${page.name} (second hand)` },
      { intro: `${page.intro} Edited on the site.`.trim() },
    ];
    store.change(page.id, edits[i % edits.length]!, null, now, "editor");
  });
  return edited.length;
}
