import { type KindDesign, limitsOf, type Site, siteConstants } from "../core/design/design";
import { BOARD_KINDS, type Kind, type TextName, TEXTS } from "../core/design/kinds";
import { BUILT_IN_FIELDS } from "../core/lines/fields";
import { parseLine } from "../core/lines/parse";
import { compileLine, type Program } from "../core/lines/program";
import { Vocabulary } from "../core/keywords/place";
import { type Filter, orderRows, type Sort } from "../core/proof/order";
import { type ProofInput, proveLive, proveSet, type TextProof } from "../core/proof/prove-set";
import { roomFor } from "../core/proof/room";
import { summarise, type TextSummary } from "../core/proof/summary";
import { languageByTag } from "../core/text/language";
import { folderOf } from "../core/plan/addresses";
import { type Db } from "../store/open";
import { readSite, revision } from "../store/site";
import { changedSince, KindData, loadKind } from "./kind-data";

/** A row of a set as the interface gets it: everything that the core needs to prove it again in the browser. */
export interface BenchRow {
  readonly id: number;
  readonly row: number;
  readonly path: string;
  readonly fields: Readonly<Record<string, string>>;
  readonly live: Readonly<Record<TextName, string>>;
  readonly hand: Readonly<Partial<Record<TextName, string>>>;
  /** How many `^apart` pieces of the text's line stand at most. */
  readonly apart: number;
  /** How many items read the same, itself included. */
  readonly same: number;
  readonly folder: string;
}

/** A field that lines of a kind may use. */
export interface FieldInfo {
  readonly name: string;
  readonly meaning: string | null;
  /** Share of the kind's items that have it, from 0 to 1. */
  readonly filled: number;
  /** A real item's value. */
  readonly example: string;
}

/** What the proof of a draft says of one text: the draft's figures beside the live ones. */
export interface ProvedText {
  readonly draft: TextSummary;
  readonly live: TextSummary;
  /** The line's first error in words, or `null`; a line with an error leaves the live texts standing. */
  readonly error: string | null;
  readonly line: string | null;
}

export interface ProvedKind {
  readonly kind: Kind;
  readonly total: number;
  readonly texts: Readonly<Record<TextName, ProvedText>>;
}

/** Which rows are wanted, and in what order. */
export interface RowQuery {
  readonly text: TextName;
  readonly sort: Sort;
  readonly filter: Filter;
  readonly search: string;
  readonly from: number;
  readonly count: number;
}

interface KnownProof {
  readonly key: string;
  readonly proof: TextProof;
  readonly summary: TextSummary;
  readonly error: string | null;
}

/** Holds a site's items in memory and proves drafts over whole sets; what a change does not touch is not proved again. */
export class ProofEngine {
  private readonly kinds = new Map<Kind, KindData>();
  private readonly live = new Map<string, { proof: TextProof; summary: TextSummary }>();
  private readonly proofs = new Map<string, KnownProof>();
  private order: { key: string; rows: Int32Array } | null = null;
  private vocabulary: Vocabulary | null = null;
  private siteText = "";

  constructor(private readonly db: Db) {}

  site(): Site {
    const site = readSite(this.db);
    if (!site) throw new Error("There is no site yet: bring one in or load the demo site");
    const text = JSON.stringify(site);
    if (text !== this.siteText) {
      this.siteText = text;
      this.kinds.clear();
      this.live.clear();
      this.proofs.clear();
      this.vocabulary = new Vocabulary(languageByTag(site.language));
    }
    return site;
  }

  /** The kind's items, loaded once and again only when some of them changed. */
  data(kind: Kind, progress?: (done: number) => void): KindData {
    const site = this.site();
    let data = this.kinds.get(kind);
    if (!data || (data.revision !== revision(this.db) && changedSince(this.db, kind, data))) {
      data = loadKind(this.db, kind, site, progress);
      this.kinds.set(kind, data);
      for (const text of TEXTS) {
        this.live.delete(`${kind} ${text}`);
        this.proofs.delete(`${kind} ${text}`);
      }
      this.order = null;
    }
    data.revision = revision(this.db);
    return data;
  }

  prove(kind: Kind, design: KindDesign, cancelled?: () => boolean, progress?: (done: number) => void): ProvedKind {
    const data = this.data(kind, progress);
    const texts = Object.fromEntries(
      TEXTS.map((text): [TextName, ProvedText] => {
        const live = this.liveProof(kind, text);
        const known = this.textProof(kind, text, design, cancelled);
        return [text, { draft: known.summary, live: live.summary, error: known.error, line: design.base[text] ?? null }];
      }),
    ) as Record<TextName, ProvedText>;
    return { kind, total: data.ids.length, texts };
  }

  /** The proof of one text of a kind's draft. */
  textProof(kind: Kind, text: TextName, design: KindDesign, cancelled?: () => boolean): KnownProof {
    const key = design.base[text] ?? "";
    const slot = `${kind} ${text}`;
    const data = this.data(kind);
    const known = this.proofs.get(slot);
    if (known?.key === key) return known;
    const live = this.liveProof(kind, text);
    const { program, error } = this.program(data, design.base[text]);
    const proof = proveSet({
      ...this.input(data, text),
      lines: program ? [{ from: "base", program }] : [],
      decides: null,
      hand: (row) => data.hands[text].get(row) ?? null,
      ...(cancelled ? { cancelled } : {}),
    });
    const made = { key, proof, summary: summarise(proof, live.proof, this.roomWidth(text)), error };
    this.proofs.set(slot, made);
    this.order = null;
    return made;
  }

  liveProof(kind: Kind, text: TextName): { proof: TextProof; summary: TextSummary } {
    const slot = `${kind} ${text}`;
    const data = this.data(kind);
    let live = this.live.get(slot);
    if (!live) {
      const proof = proveLive(this.input(data, text));
      live = { proof, summary: summarise(proof, proof, this.roomWidth(text)) };
      this.live.set(slot, live);
    }
    return live;
  }

  rows(kind: Kind, design: KindDesign, query: RowQuery, cancelled?: () => boolean): { total: number; rows: BenchRow[] } {
    const data = this.data(kind);
    const { proof } = this.textProof(kind, query.text, design, cancelled);
    const order = this.ordered(kind, data, design, query);
    const rows: BenchRow[] = [];
    for (let i = query.from; i < Math.min(order.length, query.from + query.count); i++) rows.push(this.row(data, proof, order[i]!, query.text, design));
    return { total: order.length, rows };
  }

  /** One item with its `^apart` levels for a text. */
  item(kind: Kind, design: KindDesign, text: TextName, id: number): BenchRow | null {
    const data = this.data(kind);
    const row = data.rowOf(id);
    return row < 0 ? null : this.row(data, this.textProof(kind, text, design).proof, row, text, design);
  }

  /** Two real results for each text, from a quarter and three quarters down the site. */
  examples(kind: Kind, design: KindDesign): Record<TextName, string[]> {
    const { paths } = this.data(kind);
    return Object.fromEntries(
      TEXTS.map((text) => {
        const { texts } = this.textProof(kind, text, design).proof;
        const found = [0.27, 0.77].flatMap((share) => {
          for (let row = Math.floor(texts.length * share), tries = 0; tries < 500 && row < texts.length; row++, tries++) {
            if (texts[row] !== "") return [text === "slug" ? folderOf(paths[row]!) + texts[row]! : texts[row]!];
          }
          return [];
        });
        return [text, found];
      }),
    ) as Record<TextName, string[]>;
  }

  private ordered(kind: Kind, data: KindData, design: KindDesign, query: RowQuery): Int32Array {
    const key = JSON.stringify([kind, query.text, design.base[query.text], query.sort, query.filter, query.search]);
    if (this.order?.key === key) return this.order.rows;
    const { proof } = this.textProof(kind, query.text, design);
    const words = query.search.toLowerCase().split(/\s+/).filter(Boolean);
    const name = data.items.column("name");
    const matches = words.length === 0 ? null : (row: number) => {
      const text = `${name.table.values[name.codes[row]!]!} ${proof.texts[row]} ${data.paths[row]}`.toLowerCase();
      return words.every((word) => text.includes(word));
    };
    const rows = orderRows(proof, this.liveProof(kind, query.text).proof, this.roomWidth(query.text), query.sort, query.filter, matches);
    this.order = { key, rows };
    return rows;
  }

  private row(data: KindData, proof: TextProof, row: number, text: TextName, design: KindDesign): BenchRow {
    const fields: Record<string, string> = {};
    for (const field of data.fieldNames) {
      if (field === "body" && !/\bbody\b/i.test(design.base[text] ?? "")) continue;
      const value = data.items.value(field, row);
      if (value !== "") fields[field] = value;
    }
    const hand = Object.fromEntries(TEXTS.flatMap((name) => (data.hands[name].has(row) ? [[name, data.hands[name].get(row)!]] : [])));
    return {
      id: data.ids[row]!,
      row,
      path: data.paths[row]!,
      fields,
      live: { title: data.live.title[row]!, description: data.live.description[row]!, slug: data.live.slug[row]! },
      hand,
      apart: proof.apart[row]!,
      same: proof.groups.countOf(row),
      folder: data.folder(row),
    };
  }

  fields(kind: Kind): FieldInfo[] {
    const data = this.data(kind);
    const meanings = new Map(BUILT_IN_FIELDS.map((field) => [field.name, field.meaning]));
    return data.fieldNames.filter((name) => name !== "body").map((name): FieldInfo => {
      const column = data.items.column(name);
      let filled = 0;
      let example = "";
      for (let row = 0; row < column.codes.length; row++) {
        if (column.codes[row] === 0) continue;
        filled++;
        if (example === "") example = column.table.values[column.codes[row]!]!;
      }
      return { name, meaning: meanings.get(name) ?? null, filled: column.codes.length === 0 ? 0 : filled / column.codes.length, example: example.slice(0, 120) };
    });
  }

  /** The width that a text's histogram and keyword places are told against: px, characters for slugs. */
  roomWidth(text: TextName): number {
    const site = this.site();
    if (text === "slug") return site.slug.max;
    const surface = limitsOf(site, text).surfaces[0];
    return surface ? (surface.total ?? surface.width) : 600;
  }

  /** Every board kind that has items. */
  boardKinds(): Kind[] {
    return BOARD_KINDS.filter((kind) => this.data(kind).ids.length > 0);
  }

  private program(data: KindData, source: string | undefined): { program: Program | null; error: string | null } {
    if (source === undefined || source.trim() === "") return { program: null, error: null };
    const line = parseLine(source, data.items.known);
    if (line.errors.length > 0) return { program: null, error: line.errors[0]!.message };
    const constants = siteConstants(this.site());
    return { program: compileLine(line, new Map([["sep", constants.get("sep")!]])), error: null };
  }

  private input(data: KindData, text: TextName): Omit<ProofInput, "lines" | "decides" | "hand"> {
    const site = this.site();
    const keyword = data.items.column("keyword");
    return {
      text,
      items: data.items,
      room: roomFor(limitsOf(site, text)),
      slug: text === "slug" ? { options: site.slug, stopWords: languageByTag(site.language).stopWords } : null,
      live: (row) => data.live[text][row]!,
      folder: (row) => data.folder(row),
      keyword: (row) => keyword.table.values[keyword.codes[row]!]!,
      vocabulary: this.vocabulary!,
    };
  }
}
