import { memo, type ReactNode } from "react";
import { type Surface } from "../../core/measure/surface";

/** The CSS of a surface's type. Slugs, which have no surface, are set in the lines' own font. */
export function surfaceType(surface: Surface | null): { fontFamily: string; fontSize: number; fontWeight: number } {
  if (!surface) return { fontFamily: "var(--font-mono)", fontSize: 14, fontWeight: 400 };
  return {
    fontFamily: surface.font.startsWith("arimo") ? "var(--font-desktop)" : "var(--font-phone)",
    fontSize: surface.size,
    fontWeight: surface.font.endsWith("700") ? 700 : 400,
  };
}

/** A character of the slugs' font in px at 14 px: it is monospaced at 0.6 em. */
export const SLUG_CHARACTER = 8.4;

/**
 * A text set at true size from the left: what is beyond the limit in magenta and hatched, what is short led out with
 * dots, the keyword under the marker pen. Sizes are in the text's measure, `scale` CSS px to one of it.
 */
export const TrueSizeText = memo(function TrueSizeText(props: {
  text: string;
  size: number;
  limit: number;
  fits: boolean;
  scale: number;
  surface: Surface | null;
  keyword: { start: number; width: number } | null;
  muted?: boolean;
  children?: ReactNode;
}) {
  const { text, limit, scale } = props;
  const width = props.size * scale;
  const edge = limit * scale;
  const beyond = !props.fits && width > edge;
  const color = props.muted ? "var(--key-faint)" : "var(--key)";
  return (
    <span className="relative inline-block h-full align-top" style={surfaceType(props.surface)}>
      {props.keyword && (
        <span
          aria-hidden="true"
          className="marker absolute top-1/2 h-[1.25em] -translate-y-1/2"
          style={{ left: props.keyword.start * scale - 1, width: props.keyword.width * scale + 2 }}
        />
      )}
      <span
        data-proof={text}
        className="proof-type relative"
        style={
          beyond
            ? {
                backgroundImage: `linear-gradient(to right, ${color} ${edge}px, var(--magenta) ${edge}px)`,
                backgroundClip: "text",
                color: "transparent",
              }
            : { color }
        }
      >
        {props.children ?? text}
      </span>
      {beyond && (
        <span
          aria-hidden="true"
          className="hatch absolute bottom-[3px] h-1"
          style={{ left: edge, width: width - edge }}
        />
      )}
      {!beyond && width + 12 < edge && (
        <span
          aria-hidden="true"
          className="absolute bottom-[8px] border-b-2 border-dotted border-cyan-mid"
          style={{ left: width + 6, width: edge - width - 6 }}
        />
      )}
    </span>
  );
});
