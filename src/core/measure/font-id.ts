/** The fonts that surfaces are set in. Each is a table generated from the shipped font file by `npm run fonts`. */
export type FontId = "arimo-400" | "arimo-700" | "roboto-400";

export const FONT_IDS: readonly FontId[] = ["arimo-400", "arimo-700", "roboto-400"];
