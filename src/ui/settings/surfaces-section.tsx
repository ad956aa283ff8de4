import { FONT_IDS, type FontId } from "../../core/measure/font-id";
import { type Surface, SURFACES, surfacesOf } from "../../core/measure/surface";
import { PLAIN_ACTION } from "../shell/actions";
import { NumberInput, Section } from "./fields";
import { type SettingsPart } from "./settings-part";
import { Term } from "../shell/term";
import { SIDEWAYS } from "../shell/sideways";

const FONT_LABELS: Record<FontId, string> = { "arimo-400": "Arimo", "arimo-700": "Arimo bold", "roboto-400": "Roboto" };
const TEXTS = ["title", "description"] as const;
/** What is measured where a site says nothing. */
const FIRST: Record<(typeof TEXTS)[number], string> = { title: "desktop-title", description: "desktop-description" };

/** Where texts are seen, with the figures of each, and which of them a text has to fit. */
export function SurfacesSection({ site, put, errors }: SettingsPart) {
  const all = surfacesOf(site);
  const change = (surface: Surface) => {
    const known = SURFACES.find(({ id }) => id === surface.id);
    const others = site.surfaces.filter(({ id }) => id !== surface.id);
    // One with the figures that it has anyway is none of the site's own.
    const same = known !== undefined && JSON.stringify({ ...surface }) === JSON.stringify({ ...known });
    put({
      surfaces: same
        ? others
        : site.surfaces.some(({ id }) => id === surface.id)
          ? site.surfaces.map((own) => (own.id === surface.id ? surface : own))
          : [...others, surface],
    });
  };
  const remove = (id: string) => {
    const without = (text: (typeof TEXTS)[number]) =>
      site.limits[text] && { ...site.limits[text], surfaces: site.limits[text].surfaces?.filter((own) => own !== id) };
    put({
      surfaces: site.surfaces.filter((own) => own.id !== id),
      limits: { ...site.limits, title: without("title"), description: without("description") },
    });
  };
  const add = () => {
    let number = 1;
    while (all.some(({ id }) => id === `own-${number}`)) number++;
    put({
      surfaces: [
        ...site.surfaces,
        {
          id: `own-${number}`,
          label: `Own surface ${number}`,
          font: "arimo-400",
          size: 16,
          width: 500,
          lines: 1,
          total: null,
          mark: " …",
        },
      ],
    });
  };
  const wanted = (text: (typeof TEXTS)[number]) => site.limits[text]?.surfaces ?? [FIRST[text]];
  const toggle = (text: (typeof TEXTS)[number], id: string) => {
    const now = wanted(text);
    const surfaces = now.includes(id)
      ? now.filter((own) => own !== id)
      : all.map((own) => own.id).filter((own) => own === id || now.includes(own));
    put({ limits: { ...site.limits, [text]: { ...site.limits[text], surfaces } } });
  };
  return (
    <Section
      id="surfaces"
      title="Surfaces and limits"
      about={
        <>
          A text must fit every <Term of="surface">surface</Term> ticked for it; rulers show the first one. With none
          ticked, width is not limited.
        </>
      }
    >
      <div className={SIDEWAYS}>
        <table className="w-full border-separate border-spacing-y-1 text-left">
          <thead className="narrow text-[12px] text-soft">
            <tr>
              {[
                "Surface",
                "Font",
                "Size, px",
                "Width, px",
                "Lines",
                "Total, px",
                "Mark",
                "Titles",
                "Descriptions",
                "",
              ].map((label, i) => (
                <th key={i} scope="col" className="pr-2 font-normal">
                  {label || <span className="sr-only">Actions</span>}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {all.map((surface) => {
              const known = SURFACES.find(({ id }) => id === surface.id);
              const own = site.surfaces.findIndex(({ id }) => id === surface.id);
              const error =
                own < 0 ? undefined : [...errors].find(([path]) => path.startsWith(`surfaces.${own}.`))?.[1];
              return (
                <tr key={surface.id}>
                  <td className="pr-2">
                    {known ? (
                      surface.label
                    ) : (
                      <input
                        aria-label="Name of the surface"
                        value={surface.label}
                        maxLength={80}
                        onChange={(event) => change({ ...surface, label: event.target.value })}
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
                      onChange={(event) => change({ ...surface, font: event.target.value as FontId })}
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
                      onChange={(size) => change({ ...surface, size: size! })}
                    />
                  </td>
                  <td className="pr-2">
                    <NumberInput
                      width="w-16"
                      label={`Width of ${surface.label}`}
                      value={surface.width}
                      min={40}
                      onChange={(width) => change({ ...surface, width: width! })}
                    />
                  </td>
                  <td className="pr-2">
                    <NumberInput
                      width="w-12"
                      label={`Lines of ${surface.label}`}
                      value={surface.lines}
                      min={1}
                      onChange={(lines) => change({ ...surface, lines: lines! })}
                    />
                  </td>
                  <td className="pr-2">
                    <NumberInput
                      width="w-16"
                      label={`Width in all of ${surface.label}`}
                      value={surface.total}
                      min={40}
                      empty="–"
                      onChange={(total) => change({ ...surface, total })}
                    />
                  </td>
                  <td className="pr-2">
                    <input
                      aria-label={`Mark of ${surface.label}`}
                      value={surface.mark}
                      maxLength={8}
                      onChange={(event) => change({ ...surface, mark: event.target.value })}
                      className="w-10 rounded-sm border border-edge bg-sheet px-1 py-0.5"
                    />
                  </td>
                  {TEXTS.map((text) => (
                    <td key={text} className="pr-2 text-center">
                      <input
                        type="checkbox"
                        aria-label={`${text === "title" ? "Titles" : "Descriptions"} have to fit ${surface.label}`}
                        checked={wanted(text).includes(surface.id)}
                        onChange={() => toggle(text, surface.id)}
                      />
                    </td>
                  ))}
                  <td>
                    {!known ? (
                      <button
                        type="button"
                        aria-label={`Remove ${surface.label}`}
                        className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
                        onClick={() => remove(surface.id)}
                      >
                        remove
                      </button>
                    ) : (
                      own >= 0 && (
                        <button
                          type="button"
                          aria-label={`Figures of ${surface.label} reset`}
                          className="text-soft underline decoration-hair underline-offset-4 hover:text-key"
                          onClick={() => put({ surfaces: site.surfaces.filter(({ id }) => id !== surface.id) })}
                        >
                          reset
                        </button>
                      )
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <button type="button" className={`${PLAIN_ACTION} mt-2`} onClick={add}>
        Add a surface
      </button>
      <div className="mt-4 flex flex-wrap gap-x-8 gap-y-2">
        {TEXTS.map((text) => (
          <label key={text} className="flex items-center gap-2 whitespace-nowrap">
            A {text} also has at most
            <NumberInput
              label={`Most characters of a ${text}`}
              min={1}
              empty="any"
              value={site.limits[text]?.chars ?? null}
              onChange={(chars) => put({ limits: { ...site.limits, [text]: { ...site.limits[text], chars } } })}
            />
            characters
          </label>
        ))}
      </div>
    </Section>
  );
}
