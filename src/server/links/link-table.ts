import { type Column, ColumnWriter } from "../../core/proof/items";
import { iterateLinks, type StoredLink } from "../../store/links";
import { type Db } from "../../store/open";

/** Every link of the site’s bodies, column by column, page by page. */
export class LinkTable {
  private constructor(
    readonly size: number,
    private readonly items: Int32Array,
    private readonly numbers: Int32Array,
    private readonly relative: Uint8Array,
    readonly hrefs: Column,
    readonly paths: Column,
    readonly texts: Column,
    private readonly rels: Column,
  ) {}

  static read(db: Db): LinkTable {
    const size = db.prepare("SELECT count(*) FROM links").pluck().get() as number;
    const items = new Int32Array(size);
    const numbers = new Int32Array(size);
    const relative = new Uint8Array(size);
    const [hrefs, paths, texts, rels] = [0, 1, 2, 3].map(() => new ColumnWriter(size)) as [
      ColumnWriter,
      ColumnWriter,
      ColumnWriter,
      ColumnWriter,
    ];
    let link = 0;
    for (const own of iterateLinks(db)) {
      items[link] = own.item;
      numbers[link] = own.number;
      relative[link] = own.isRelative ? 1 : 0;
      hrefs.set(link, own.href);
      paths.set(link, own.path);
      texts.set(link, own.text);
      rels.set(link, own.rel ?? "");
      link++;
    }
    return new LinkTable(link, items, numbers, relative, hrefs.column(), paths.column(), texts.column(), rels.column());
  }

  /** The number that the link’s page has in the database. */
  itemOf(link: number): number {
    return this.items[link]!;
  }

  at(link: number): StoredLink {
    const value = ({ codes, table }: Column) => table.values[codes[link]!]!;
    return {
      item: this.items[link]!,
      number: this.numbers[link]!,
      href: value(this.hrefs),
      path: value(this.paths),
      text: value(this.texts),
      rel: value(this.rels) || null,
      isRelative: this.relative[link] === 1,
    };
  }
}
