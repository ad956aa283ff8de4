/** How texts become slugs; each is a setting of a site. */
export interface SlugOptions {
  readonly dropStopWords: boolean;
  readonly dropNumbers: boolean;
  /** Keeps letters outside ASCII instead of transliterating them. */
  readonly keepUnicode: boolean;
  /** The most characters. */
  readonly max: number;
}

export const SLUG_DEFAULTS: SlugOptions = { dropStopWords: false, dropNumbers: false, keepUnicode: false, max: 60 };
