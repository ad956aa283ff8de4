import { folderOf } from "../../core/addresses/addresses";
import { limitsOf, type Site } from "../../core/design/design";
import { type Kind, TEXTS } from "../../core/design/kinds";
import { Vocabulary } from "../../core/keywords/place";
import { type FolderHash, GivenProver } from "../../core/proof/given-prover";
import { textValue } from "../../core/proof/items";
import { roomFor } from "../../core/proof/room";
import { TextMeter } from "../../core/proof/text-meter";
import { slugRulesOf } from "../../core/slugs/site-rules";
import { emptyHash, hashText } from "../../core/text/hash";
import { languageByTag } from "../../core/text/language";
import { type ColumnChunk, iterateColumns } from "../../store/items";
import { openStore } from "../../store/open";
import { revision } from "../../store/site";
import { LiveShare, type LiveShareMemory } from "./live-share";

/** What the thread is started with. */
export interface LiveRequest {
  /** The site's database. */
  readonly path: string;
  readonly site: Site;
  readonly kind: Kind;
  /** The number of the last change to items: with another one the pages are not those that are asked about. */
  readonly revision: number;
  readonly memory: LiveShareMemory;
}

const COLUMNS = ["path", "keyword", ...TEXTS] as const;

/** Proves what a site has of a kind's texts, stretch by stretch, as far as nobody else is at them. No text is kept. */
export function proveLive({ path, site, kind, revision: asked, memory }: LiveRequest): void {
  const share = new LiveShare(memory);
  try {
    const db = openStore(path, { readonly: true });
    try {
      db.exec("BEGIN");
      if (revision(db) !== asked) return share.end();
      const chunks = iterateColumns(db, kind, COLUMNS);
      const stretch = new LiveStretch(site, memory);
      for (let i = 0; i < share.stretches && !share.hasEnded && share.begin(i); i++) {
        const { from, to } = share.rowsOf(i);
        const { value } = chunks.next() as { value?: ColumnChunk };
        if (value?.size !== to - from) return share.end();
        stretch.prove(value, from);
        share.finish(i);
      }
    } finally {
      db.close();
    }
  } catch {
    // Who asked does it then, and hears what is wrong.
    share.end();
  }
}

/** Proves the texts of stretches of rows. */
class LiveStretch {
  private readonly vocabulary: Vocabulary;
  private readonly provers: readonly GivenProver[];
  private readonly folders = new Map<string, FolderHash>();

  constructor(
    site: Site,
    private readonly memory: LiveShareMemory,
  ) {
    this.vocabulary = new Vocabulary(languageByTag(site.language));
    this.provers = TEXTS.map((text) => {
      const meter = new TextMeter(roomFor(limitsOf(site, text)), text === "slug" ? slugRulesOf(site) : null);
      return new GivenProver(meter, this.vocabulary);
    });
  }

  prove(chunk: ColumnChunk, from: number): void {
    const [paths, keywords, ...texts] = COLUMNS.map((_, place) => chunk.column(place).values);
    const ready = keywords!.map((keyword) => this.vocabulary.keyword(textValue(keyword)));
    TEXTS.forEach((text, t) => {
      const columns = this.memory.texts[text];
      for (let i = 0; i < chunk.size; i++) {
        const folder = text === "slug" ? this.folder(folderOf(paths![i]!)) : null;
        this.provers[t]!.write(columns, from + i, texts[t]![i]!, ready[i]!, folder);
      }
    });
  }

  private folder(path: string): FolderHash {
    let hash = this.folders.get(path);
    if (!hash) {
      const own = emptyHash();
      hashText(path, own);
      if (this.folders.size >= MOST_FOLDERS) this.folders.clear();
      this.folders.set(path, (hash = own));
    }
    return hash;
  }
}

/** So many folders have their hashes remembered. */
const MOST_FOLDERS = 50_000;
