import { linksVersion, type MendedLink, mendedLinks, mendsVersion } from "../../store/links";
import { type Db } from "../../store/open";
import { revision } from "../../store/site";
import { hashOf } from "./digest";

/** The links that are to say something else, and another digest where one of them does. */
export interface Mends {
  readonly links: readonly MendedLink[];
  readonly digest: string;
}

/** Holds the mended links until a link is read or mended, or a page is another. */
export class HeldMends {
  private held: { readonly version: string; readonly value: Mends } | null = null;

  constructor(private readonly db: Db) {}

  now(): Mends {
    const { db } = this;
    const version = [mendsVersion(db), linksVersion(db), revision(db)].join(" ");
    if (this.held?.version !== version) {
      const links = mendedLinks(db);
      this.held = { version, value: { links, digest: hashOf(JSON.stringify(links)) } };
    }
    return this.held.value;
  }
}
