import { readBody } from "../../store/items";
import { type Db } from "../../store/open";
import { wireForm, wirePage } from "../../store/wire";
import { type PageOutcome } from "../runs/applier";
import { type SentField, type SentPage } from "./page-exchange";

interface PageTexts {
  readonly kind: string;
  readonly key: string | null;
  readonly title: string;
  readonly description: string;
  readonly slug: string;
  readonly robots: string;
  readonly keywords: string;
  readonly canonical: string;
}

/** Makes of what a run makes of a page what is sent of it; `null` where the interface has no name for the page. */
export function pageReader(db: Db): (outcome: PageOutcome) => (SentPage & { readonly etag: string | null }) | null {
  const texts = db.prepare(
    "SELECT kind, key, title, description, slug, robots, meta_keywords AS keywords, canonical FROM items WHERE id = ?",
  );
  return ({ item, move, body, ...outcome }) => {
    const now = texts.get(item) as PageTexts;
    const known = wirePage(db, item);
    const remote = known?.remote ?? now.key;
    if (remote === null) return null;
    const before = new Map<SentField, string>();
    const after = new Map<SentField, string>();
    const forms = new Map<SentField, string>();
    const note = (field: SentField, was: string, will: string | null) => {
      if (will === null || will === was) return;
      before.set(field, was);
      after.set(field, will);
      const form = wireForm(db, item, field, will);
      if (form !== null) forms.set(field, form);
    };
    for (const name of ["title", "description", "slug", "robots", "canonical"] as const)
      note(name, now[name], outcome[name]);
    note("meta-keywords", now.keywords, outcome.keywords);
    if (move) note("address", move.from ?? "", move.to);
    if (body !== null) note("body", readBody(db, item), body);
    return { item, kind: now.kind, remote, etag: known?.etag ?? null, before, after, forms };
  };
}
