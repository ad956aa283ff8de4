import { type Db } from "../store/open";

/** One product in so many names another one of its sort as the one to be listed. */
const EVERY = 50;

interface Page {
  readonly id: number;
  readonly path: string;
}

/**
 * Gives some products of the demo site the address of another one of their sort as canonical, as shops do with wares in many colours;
 * and to some of those what gathers over the years: old addresses, the scheme of before, pages that are gone or not indexed, and chains.
 */
export function nameDemoCanonicals(db: Db, baseUrl: string): void {
  const products = db
    .prepare("SELECT id, path FROM items WHERE kind = 'product' AND path IS NOT NULL ORDER BY id")
    .all() as Page[];
  const moved = db
    .prepare(
      "SELECT from_path FROM redirects WHERE status = 301 AND from_path LIKE '/shop/%' ORDER BY from_path LIMIT 9",
    )
    .pluck()
    .all() as string[];
  const unlisted = db.prepare("SELECT path FROM items WHERE robots LIKE 'noindex%' ORDER BY id LIMIT 1").pluck();
  const hidden = unlisted.get() as string | undefined;
  const put = db.prepare("UPDATE items SET canonical = ? WHERE id = ?");
  const otherScheme = baseUrl.replace(/^https:/, "http:");
  products.forEach(({ id }, i) => {
    if (i % EVERY !== EVERY - 1) return;
    const lot = Math.floor(i / EVERY);
    const like = products[i - EVERY + 2]!.path;
    const named = {
      3: moved[lot % Math.max(1, moved.length)],
      5: `/clearance/lot-${lot}`,
      7: `${otherScheme}${like}`,
      11: hidden,
      // The one before names another one itself.
      13: products[i - EVERY]?.path,
    }[lot % 17];
    put.run(named ?? like, id);
  });
}
