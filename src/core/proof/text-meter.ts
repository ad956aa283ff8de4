import { advanceUnits, unitsToPx } from "../measure/advance";
import { isSeen } from "../measure/cut";
import { type Font, fontById } from "../measure/font";
import { type SlugRules } from "../slugs/slug";
import { charCount } from "../text/char-count";
import { hasRoomFor, type Room } from "./room";

/** Measures texts that no line made, and tells what of a text is seen. */
export class TextMeter {
  /** The figure that the text last measured is told by: characters for slugs, px otherwise. */
  size = 0;
  readonly font: Font;
  readonly px: number;
  private readonly fonts: readonly Font[];

  constructor(
    private readonly room: Room,
    readonly slug: SlugRules | null,
  ) {
    this.fonts = room.fonts.map(fontById);
    this.font = this.fonts[0]!;
    this.px = room.surfaces[0]?.surface.size ?? 20;
  }

  /** Measures a text into {@link size}, and says whether it has room. */
  measure(text: string): boolean {
    if (this.slug) {
      this.size = text.length;
      return text.length <= this.slug.options.max;
    }
    const { limits, fonts, surfaces } = this.room;
    let fits = limits.chars === null || charCount(text) <= limits.chars;
    for (let f = 0; f < fonts.length; f++) {
      const font = this.fonts[f]!;
      const units = advanceUnits(font, text);
      if (f === 0) this.size = unitsToPx(font, units, this.px);
      for (let s = 0; s < surfaces.length && fits; s++)
        if (surfaces[s]!.font === f) fits = hasRoomFor(surfaces[s]!, units, text);
    }
    return fits;
  }

  /** Whether a text that does not fit is seen up to an offset on the first surface: only a cut can hide a keyword. */
  isSeen(text: string, end: number): boolean {
    const surface = this.room.surfaces[0]?.surface;
    return !surface || isSeen(surface, text, end);
  }
}
