import { type Redirect } from "../core/addresses/redirect";

/** So many pages of the demo site were moved twice before. */
const MOST_MOVED = 1470;
const DISCONTINUED = 40;
const SAID_TWICE = 12;

const moved = (from: string, to: string): Redirect => ({ from, to, status: 301, prefix: false });

/**
 * What two earlier moves of the demo site left behind, as lists of redirects are after some years: chains, a ring, paths that lead to
 * nothing, and some that were said twice. First the catalogue became the shop, then the shop went up to the top.
 *
 * @param paths where its products are.
 */
export function* demoRedirects(paths: readonly string[]): Generator<Redirect> {
  const step = Math.max(1, Math.floor(paths.length / MOST_MOVED));
  const own = paths.filter((path, i) => path !== "" && i % step === 0).slice(0, MOST_MOVED);
  for (const path of own) yield moved(`/catalogue${path}`, `/shop${path}`);
  for (let lot = 1; lot <= DISCONTINUED; lot++)
    yield moved(`/catalogue/discontinued/lot-${lot}`, `/shop/discontinued/lot-${lot}`);
  for (const path of own.slice(0, SAID_TWICE)) yield moved(`/shop${path}`, `/shop/all${path}`);
  for (const path of own) yield moved(`/shop${path}`, path);
  yield moved("/clearance/oars", "/clearance/paddles");
  yield moved("/clearance/paddles", "/clearance/oars");
  yield { from: "/catalogue-2019.pdf", to: "", status: 410, prefix: false };
}
