/** The ways in which figures are written, each by an example. */
export const FIGURE_WORDS = {
  number: [
    ["point", "1,234.5"],
    ["comma", "1.234,5"],
  ],
  day: [
    ["day-first", "day / month"],
    ["month-first", "month / day"],
  ],
} as const;
