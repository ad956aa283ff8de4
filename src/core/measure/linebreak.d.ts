declare module "linebreak" {
  /** Walks the line break opportunities of a text by UAX #14. */
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { position: number; required: boolean } | null;
  }
}
