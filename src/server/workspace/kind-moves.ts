import { lastSegment } from "../../core/addresses/addresses";
import { MOVES_ANYWAY, movingBits, slugFaultBits } from "../../core/checks/may-move";
import { type KindDesign, type Site } from "../../core/design/design";
import { languageByTag } from "../../core/text/language";
import { type KindData } from "./kind-data";

interface Held {
  readonly settings: string;
  readonly bits: Uint8Array;
}

/** Which pages of kinds may move; what is wrong with their slugs is looked at once, as long as pages and settings are the same. */
export class KindMoves {
  private readonly held = new WeakMap<KindData, Held>();

  /** Whether a row's page may get another address: one without any always may. */
  mayMove(data: KindData, site: Site, design: KindDesign): (row: number) => boolean {
    const wanted = movingBits(design);
    if (wanted === MOVES_ANYWAY) return () => true;
    if (wanted === 0) return (row) => data.paths[row] === "";
    const bits = this.bitsOf(data, site);
    return (row) => data.paths[row] === "" || (bits[row]! & wanted) !== 0;
  }

  private bitsOf(data: KindData, site: Site): Uint8Array {
    const settings = movesSettings(site);
    const held = this.held.get(data);
    if (held?.settings === settings) return held.bits;
    const bounds = { max: site.slug.max, depth: site.checks.depth, language: languageByTag(site.language) };
    const bits = Uint8Array.from(data.paths, (path) => slugFaultBits({ path, slug: lastSegment(path) }, bounds));
    this.held.set(data, { settings, bits });
    return bits;
  }
}

/** The settings that it rests on whether a slug has a fault. */
export function movesSettings({ slug, checks, language }: Site): string {
  return JSON.stringify([slug.max, checks.depth, language]);
}
