import { siteSchema } from "../../core/design/schema";
import { type Site } from "../../core/design/design";
import { requireKind, withKinds } from "../../core/design/kinds";
import { Refusal } from "../../core/refusal";
import { type Mapping } from "../../formats/mapping";
import { type Db } from "../../store/open";
import { readSite, writeSite } from "../../store/site";

/**
 * The site's settings with the kinds that a file's pages need.
 *
 * @throws {Refusal} where a kind cannot be one, or the pages are to be of a kind that there is not.
 */
export function siteForFile(db: Db, { kinds = [], kind, targets }: Mapping): Site {
  const present = readSite(db) ?? siteSchema.parse({});
  const read = siteSchema.safeParse({ ...present, kinds: withKinds(present.kinds, kinds) });
  if (!read.success) {
    const { path, message } = read.error.issues[0]!;
    throw new Refusal("invalid", `The kinds of page cannot be these: ${message} (${path.join(".")})`);
  }
  if (!targets.includes("kind")) requireKind(read.data, kind);
  return read.data;
}

/** Gives the site the kinds that a file's pages need, before the first of them is in. */
export function takeKinds(db: Db, mapping: Mapping): Site {
  return db
    .transaction(() => {
      const next = siteForFile(db, mapping);
      if (mapping.kinds?.length && JSON.stringify(next) !== JSON.stringify(readSite(db))) writeSite(db, next);
      return next;
    })
    .immediate();
}
