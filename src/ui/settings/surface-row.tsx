import {
  fittedSurfaces,
  MEASURED_TEXTS,
  withFitted,
  withKnownFigures,
  withoutSurface,
  withSurface,
} from "../../core/design/site-surfaces";
import { FONT_IDS, type FontId } from "../../core/measure/font-id";
import { type Surface, surfaceById } from "../../core/measure/surface";
import { NumberInput } from "./fields";
import { type SettingsPart } from "./settings-part";

const FONT_LABELS: Record<FontId, string> = { "arimo-400": "Arimo", "arimo-700": "Arimo bold", "roboto-400": "Roboto" };

/** The figures of a surface, and the texts that have to fit it. */
export function SurfaceRow({ surface, part: { site, put, errors } }: { surface: Surface; part: SettingsPart }) {
  const isKnown = surfaceById(surface.id) !== undefined;
  const own = site.surfaces.findIndex(({ id }) => id === surface.id);
  const error = own < 0 ? undefined : [...errors].find(([path]) => path.startsWith(`surfaces.${own}.`))?.[1];
  const change = (figures: Partial<Surface>) => put(withSurface(site, { ...surface, ...figures }));
  return (
    <tr>
      <td className="pr-2">
        {isKnown ? (
          surface.label
        ) : (
          <input
            aria-label="Name of the surface"
            value={surface.label}
            maxLength={80}
            onChange={(event) => change({ label: event.target.value })}
            className="w-40 rounded-sm border border-edge bg-sheet px-2 py-0.5"
          />
        )}
        {error && (
          <span role="alert" className="block text-magenta">
            {error}
          </span>
        )}
      </td>
      <td className="pr-2">
        <select
          aria-label={`Font of ${surface.label}`}
          value={surface.font}
          onChange={(event) => change({ font: event.target.value as FontId })}
          className="rounded-sm border border-edge bg-sheet px-1 py-0.5"
        >
          {FONT_IDS.map((font) => (
            <option key={font} value={font}>
              {FONT_LABELS[font]}
            </option>
          ))}
        </select>
      </td>
      <td className="pr-2">
        <NumberInput
          width="w-14"
          label={`Size of ${surface.label}`}
          value={surface.size}
          min={6}
          onChange={(size) => change({ size: size! })}
        />
      </td>
      <td className="pr-2">
        <NumberInput
          width="w-16"
          label={`Width of ${surface.label}`}
          value={surface.width}
          min={40}
          onChange={(width) => change({ width: width! })}
        />
      </td>
      <td className="pr-2">
        <NumberInput
          width="w-12"
          label={`Lines of ${surface.label}`}
          value={surface.lines}
          min={1}
          onChange={(lines) => change({ lines: lines! })}
        />
      </td>
      <td className="pr-2">
        <NumberInput
          width="w-16"
          label={`Width in all of ${surface.label}`}
          value={surface.total}
          min={40}
          empty="–"
          onChange={(total) => change({ total })}
        />
      </td>
      <td className="pr-2">
        <input
          aria-label={`Mark of ${surface.label}`}
          value={surface.mark}
          maxLength={8}
          onChange={(event) => change({ mark: event.target.value })}
          className="w-10 rounded-sm border border-edge bg-sheet px-1 py-0.5"
        />
      </td>
      {MEASURED_TEXTS.map((text) => (
        <td key={text} className="pr-2 text-center">
          <input
            type="checkbox"
            aria-label={`${text === "title" ? "Titles" : "Descriptions"} have to fit ${surface.label}`}
            checked={fittedSurfaces(site, text).includes(surface.id)}
            onChange={(event) => put(withFitted(site, text, surface.id, event.target.checked))}
          />
        </td>
      ))}
      <td>
        {!isKnown && (
          <button
            type="button"
            aria-label={`Remove ${surface.label}`}
            className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
            onClick={() => put(withoutSurface(site, surface.id))}
          >
            remove
          </button>
        )}
        {isKnown && own >= 0 && (
          <button
            type="button"
            aria-label={`Figures of ${surface.label} reset`}
            className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
            onClick={() => put(withKnownFigures(site, surface.id))}
          >
            reset
          </button>
        )}
      </td>
    </tr>
  );
}
