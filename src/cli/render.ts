import { slugRulesOf } from "../core/slugs/site-rules";
import { lastSegment } from "../core/addresses/addresses";
import { MOVES_ANYWAY, movingBits, slugFaultBits } from "../core/checks/may-move";
import { languageByTag } from "../core/text/language";
import { type KindDesign, limitsOf, type LinesFile, type Site, siteConstants, writingOf } from "../core/design/design";
import { type Kind, type TextName, TEXTS } from "../core/design/kinds";
import { type Line } from "../core/lines/ast";
import { BUILT_IN_NAMES } from "../core/lines/fields";
import { MOST_CHARACTERS } from "../core/lines/filters";
import { nearest } from "../core/lines/near";
import { parseLine } from "../core/lines/parse";
import { compileLine } from "../core/lines/program";
import { advanceUnits, unitsToPx } from "../core/measure/advance";
import { fontById } from "../core/measure/font";
import { tellApart } from "../core/proof/apart";
import { leftPieces } from "../core/proof/explain";
import { TextGroups } from "../core/proof/groups";
import { type ItemRecord, itemSetOf } from "../core/proof/items";
import { overBy, type Room, roomFor } from "../core/proof/room";
import { isOwnExport, readExported } from "../formats/own-export";
import { LineSetter } from "../core/proof/setter";
import { fieldSource } from "../core/proof/prove-line";
import { decide } from "../core/rules/decide";

/** A rendered text as the command line writes it. */
export interface RenderedText {
  readonly text: string;
  readonly px: number;
  readonly fits: boolean;
  readonly over: number;
  readonly rule: string | null;
  readonly from: "rule" | "base" | "hand";
  readonly left: readonly { piece: string; why: string }[];
  readonly empty: readonly string[];
}

export interface Rendered {
  readonly texts: readonly (Partial<Record<TextName, RenderedText>> & { id: string | number | null })[];
  /** Whether anything is too wide, duplicate, missing or has an empty field. */
  readonly faulty: boolean;
}

/** A line with an error, given to the caller with the text it is for. */
export class LineFault extends Error {
  constructor(readonly line: Line) {
    super(line.errors[0]!.message);
  }
}

const rounded = (px: number) => Math.round(px * 100) / 100;

/**
 * Renders a kind's lines for items, rules first. A field that no item has is an error where a known name is near; otherwise it is
 * empty, and `warn` says so: items of a pipeline need not have every field.
 *
 * @throws {LineFault} for a line with an error.
 */
export function render(
  file: LinesFile,
  kind: Kind,
  records: readonly ItemRecord[],
  warn: (message: string) => void,
): Rendered {
  const design = file.kinds[kind] ?? { base: {}, rules: [] };
  const { base, rules } = design;
  const { fields, hands, addresses } = pagesOf(records, kind);
  const items = itemSetOf(fields, siteConstants(file.site), {
    writing: writingOf(file.site),
    formats: file.site.formats[kind],
  });
  const { known } = items;
  const lenient = {
    has: (name: string) => known.has(name) || !isNearBuiltIn(name),
    names: () => known.names(),
  };
  const out: Record<string, unknown>[] = fields.map((record) => ({ id: idOf(record) }));
  let faulty = false;
  for (const text of TEXTS) {
    const decision = decide(rules, base, text, items);
    const { lines } = decision;
    if (lines.length === 0) continue;
    const mayMove = text === "slug" ? movingPages(design, file.site) : null;
    const decides = mayMove
      ? decision.decides.map((line, row) => (mayMove(addresses[row]!) ? line : -1))
      : decision.decides;
    const parsed = lines.map(({ source }) => {
      const line = parseLine(source, lenient);
      if (line.errors.length > 0) throw new LineFault(line);
      return line;
    });
    const programs = parsed.map((line) => compileLine(line, new Map([["sep", file.site.sep]])));
    for (const name of new Set(
      programs.flatMap((program) =>
        program.fields.flatMap((field) => field.sources.flatMap((s) => (s.type === "name" ? [s.name] : []))),
      ),
    )) {
      if (!known.has(name)) warn(`No item has the field “${name}” of the ${text} line; it is taken as empty`);
    }
    const limits = limitsOf(file.site, text);
    const slug = text === "slug" ? slugRulesOf(file.site) : null;
    const room = roomFor(limits);
    const setters = programs.map((program) => new LineSetter(program, items, room, slug));
    const groups = new TextGroups(items.size);
    const levels = new Uint8Array(items.size);
    const tooLong = new Set<number>();
    const font = fontById(room.fonts[0]!);
    const size = limits.surfaces[0]?.size ?? 20;
    const set = (row: number) => {
      const hand = hands[row]![text];
      if (hand !== undefined) {
        groups.putText(row, hand);
        out[row]![text] = byHand(hand, slug ? null : room);
        return;
      }
      const at = decides[row]!;
      if (at < 0) return;
      const setter = setters[at]!;
      setter.set(row, levels[row]!);
      if (setter.isTooLong) tooLong.add(row);
      else tooLong.delete(row);
      groups.putText(row, setter.text);
      const rendered: RenderedText = {
        text: setter.text,
        px: rounded(unitsToPx(font, slug ? advanceUnits(font, setter.text) : setter.units[0]!, size)),
        // A slug is cut to its limit, so what is written always fits.
        fits: slug ? true : setter.fits,
        over: slug ? 0 : rounded(setter.over()),
        rule: lines[at]!.rule?.name ?? null,
        from: lines[at]!.from,
        left: leftPieces(setter),
        empty: setter.emptyFields().map((field) => fieldSource(parsed[at]!, programs[at]!.fields[field]!)),
      };
      out[row]![text] = rendered;
    };
    for (let row = 0; row < items.size; row++) set(row);
    tellApart(
      groups,
      levels,
      (row) => (decides[row]! < 0 || hands[row]![text] !== undefined ? 0 : programs[decides[row]!]!.apartCount),
      set,
    );
    const nothing = tooLong.size;
    if (nothing > 0)
      warn(
        `The ${text} line makes more than ${MOST_CHARACTERS} characters for ${nothing} of the items; nothing is written there`,
      );
    for (let row = 0; row < items.size; row++) {
      const made = out[row]![text] as RenderedText | undefined;
      if (!made || !made.fits || made.text === "" || made.empty.length > 0 || groups.countOf(row) > 1) faulty = true;
    }
  }
  return { texts: out as unknown as Rendered["texts"], faulty };
}

/** Whether a design lets the page at an address move; one without an address gets one in any case. */
function movingPages(design: Pick<KindDesign, "moves" | "movesFor">, site: Site): (path: string) => boolean {
  const wanted = movingBits(design);
  const bounds = { max: site.slug.max, depth: site.checks.depth, language: languageByTag(site.language) };
  return (path) =>
    path === "" || wanted === MOVES_ANYWAY || (slugFaultBits({ path, slug: lastSegment(path) }, bounds) & wanted) !== 0;
}

/** The items that are meant: of the application's own export the pages of the kind, each with its texts by hand. */
function pagesOf(
  records: readonly ItemRecord[],
  kind: Kind,
): {
  fields: readonly ItemRecord[];
  hands: readonly Partial<Record<TextName, string>>[];
  addresses: readonly string[];
} {
  if (records.length === 0 || !isOwnExport(records[0]!))
    return { fields: records, hands: records.map(() => ({})), addresses: records.map(() => "") };
  const pages = records.map(readExported).filter((page) => page.kind === null || page.kind === kind);
  return {
    fields: pages.map(({ fields }) => fields),
    hands: pages.map(({ hand }) => hand),
    addresses: pages.map(({ address }) => address),
  };
}

/** A text by hand as it is written; `null` for a slug's room. */
function byHand(text: string, room: Room | null): RenderedText {
  const surface = room?.surfaces[0]?.surface;
  const font = fontById(room?.fonts[0] ?? "arimo-400");
  const over = room ? overBy(room, text) : 0;
  const px = rounded(unitsToPx(font, advanceUnits(font, text), surface?.size ?? 20));
  return { text, px, fits: over === 0, over: rounded(over), rule: null, from: "hand", left: [], empty: [] };
}

function isNearBuiltIn(name: string): boolean {
  return nearest(name, BUILT_IN_NAMES) !== undefined;
}

function idOf(record: ItemRecord): string | number | null {
  const key = Object.keys(record).find((name) => name.toLowerCase() === "id");
  const value = key === undefined ? null : record[key];
  return typeof value === "string" || typeof value === "number" ? value : null;
}
