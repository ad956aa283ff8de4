import { memo } from "react";

/** How a histogram lies on its axis: the same numbers place ruler, limit and rows. All widths are CSS px. */
export interface Axis {
  /** Where 0 is, from the left. */
  readonly origin: number;
  /** CSS px to one unit of the text's measure: 1 for px at true size, a character's width for slugs. */
  readonly scale: number;
  readonly width: number;
}

/** A whole set's sizes as bars on the measure, what is beyond the limit in magenta; the live set as a dashed outline. */
export const Histogram = memo(function Histogram(props: {
  bins: readonly number[];
  live?: readonly number[] | undefined;
  binSize: number;
  limit: number;
  unit: string;
  axis: Axis;
  height: number;
  ruler?: boolean;
  label: string;
  showLimit?: boolean;
}) {
  const { bins, live, binSize, limit, unit, axis, height } = props;
  const rulerHeight = props.ruler ? 28 : 7;
  const barArea = height - rulerHeight;
  const step = binSize * axis.scale;
  const count = Math.min(bins.length, Math.floor((axis.width - axis.origin) / step));
  // The last bin holds all that is wider still; it would flatten the rest.
  const visible = Math.min(count, bins.length - 1);
  const most = Math.max(1, ...bins.slice(0, visible), ...(live ?? []).slice(0, visible));
  const y = (value: number) => barArea - (value === 0 ? 0 : Math.max(1.5, Math.min(1, value / most) * (barArea - 10)));
  const at = (value: number) => axis.origin + value * axis.scale;
  const major = binSize === 1 ? 10 : 100;
  const minor = binSize === 1 ? 2 : props.ruler ? 10 : 50;
  const outline = live
    ? smooth(
        live
          .slice(0, count + 1)
          .map((value, i): [number, number] => [
            axis.origin + (i + 0.5) * step,
            barArea - Math.min(1, value / most) * (barArea - 10),
          ]),
      )
    : "";
  const ticks: number[] = [];
  for (let value = 0; at(value) <= axis.width; value += minor) ticks.push(value);
  return (
    <svg width={axis.width} height={height} role="img" aria-label={props.label} className="block select-none">
      {bins.slice(0, count).map((value, i) => {
        if (value === 0) return null;
        const start = i * binSize;
        const x = at(start);
        // A slug of exactly the limit fits; a bin of one character holds just that length.
        const beyond = binSize === 1 ? start > limit : start >= limit;
        return (
          <rect
            key={i}
            x={x}
            width={Math.max(0.8, step - Math.min(1.5, step * 0.2))}
            y={y(value)}
            height={barArea - y(value)}
            fill={beyond ? "var(--magenta)" : "var(--key)"}
          />
        );
      })}
      {outline && <path d={outline} fill="none" stroke="var(--key-faint)" strokeDasharray="4 3" strokeWidth="1.2" />}
      <line x1={axis.origin} x2={axis.width} y1={barArea + 0.5} y2={barArea + 0.5} stroke="var(--cyan-mid)" />
      {ticks.map((value) => {
        const isMajor = value % major === 0;
        return (
          <g key={value}>
            <line
              x1={at(value)}
              x2={at(value)}
              y1={barArea}
              y2={barArea + (props.ruler ? (isMajor ? 12 : value % (major / 2) === 0 ? 7 : 4) : 5)}
              stroke="var(--cyan-mid)"
            />
            {props.ruler && isMajor && (
              <text x={at(value) + 3} y={barArea + 22} fontSize="11" fill="var(--cyan)" className="narrow">
                {value}
              </text>
            )}
          </g>
        );
      })}
      {props.showLimit && (
        <>
          <line x1={at(limit)} x2={at(limit)} y1="0" y2={height} stroke="var(--cyan-line)" strokeWidth="1.5" />
          <text
            x={at(limit) + (at(limit) + 46 > axis.width ? -5 : 5)}
            y="10"
            textAnchor={at(limit) + 46 > axis.width ? "end" : "start"}
            fontSize="11"
            fontWeight="600"
            fill="var(--cyan)"
            className="narrow"
          >
            {limit} {unit}
          </text>
        </>
      )}
    </svg>
  );
});

function smooth(points: readonly (readonly [number, number])[]): string {
  if (points.length < 2) return "";
  let path = `M${points[0]![0]} ${points[0]![1]}`;
  for (let i = 1; i < points.length; i++) {
    const [x0, y0] = points[i - 1]!;
    const [x1, y1] = points[i]!;
    const middle = (x0 + x1) / 2;
    path += ` C${middle} ${y0} ${middle} ${y1} ${x1} ${y1}`;
  }
  return path;
}
