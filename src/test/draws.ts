/**
 * How many examples a costly property is tried with. With the seed that is always the same they are the same ones again and again, so a few are
 * enough to notice what a change breaks; with another seed (`NINE_LINES_SEED`) all are drawn, to find what nobody thought of.
 */
export const draws = (all: number): number => (process.env["NINE_LINES_SEED"] === undefined ? Math.ceil(all / 4) : all);
