/** One figure of the benchmark beside its baseline, both measured in the same run. */
export interface Figure {
  readonly name: string;
  /** Median of the rounds, in ms. */
  readonly ms: number;
  /** What the figure is in, where it is not ms; such a figure has no baseline. */
  readonly unit?: string;
  readonly baseline: string;
  readonly baselineMs: number;
  /** The bound that the issue or contract sets, in words, and whether it holds. */
  readonly bound?: string;
  readonly holds?: boolean;
}

/** The median time of a piece of work in ms, over some rounds after a first one that is not counted. */
export function median(rounds: number, work: (round: number) => void): number {
  work(-1);
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const start = performance.now();
    work(round);
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[rounds >> 1]!;
}

/** The time of a piece of work that is done once, in ms. */
export async function once(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Resident memory of the process in MB. */
export function residentMb(): number {
  return process.memoryUsage.rss() / 1048576;
}

export function table(figures: readonly Figure[]): string {
  const said = (ms: number) => `${ms.toFixed(ms < 10 ? 1 : 0)} ms`;
  const rows = figures.map((f) => {
    const bound = f.bound ? `${f.bound}: ${f.holds ? "holds" : "MISSED"}` : "";
    return f.unit
      ? [f.name, `${f.ms.toFixed(0)} ${f.unit}`, "", "", "", bound]
      : [
          f.name,
          said(f.ms),
          f.baseline,
          said(f.baselineMs),
          `${(f.ms / f.baselineMs).toFixed(f.ms < f.baselineMs ? 2 : 1)} ×`,
          bound,
        ];
  });
  const all = [["what", "time", "baseline", "time", "ratio", "bound"], ...rows];
  const widths = all[0]!.map((_, i) => Math.max(...all.map((row) => row[i]!.length)));
  return all
    .map((row) =>
      row
        .map((cell, i) => cell.padEnd(widths[i]!))
        .join("  ")
        .trimEnd(),
    )
    .join("\n");
}
