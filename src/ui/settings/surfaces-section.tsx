import { MEASURED_TEXTS, withNewSurface } from "../../core/design/site-surfaces";
import { surfacesOf } from "../../core/measure/surface";
import { PLAIN_ACTION } from "../shell/actions";
import { SIDEWAYS } from "../shell/sideways";
import { Term } from "../shell/term";
import { NumberInput, Section } from "./fields";
import { type SettingsPart } from "./settings-part";
import { SurfaceRow } from "./surface-row";

const HEADINGS = [
  "Surface",
  "Font",
  "Size, px",
  "Width, px",
  "Lines",
  "Total, px",
  "Mark",
  "Titles",
  "Descriptions",
] as const;

/** Where texts are seen, with the figures of each, and which of them a text has to fit. */
export function SurfacesSection(part: SettingsPart) {
  const { site, put } = part;
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
              {HEADINGS.map((label) => (
                <th key={label} scope="col" className="pr-2 font-normal">
                  {label}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {surfacesOf(site).map((surface) => (
              <SurfaceRow key={surface.id} surface={surface} part={part} />
            ))}
          </tbody>
        </table>
      </div>
      <button type="button" className={`${PLAIN_ACTION} mt-2`} onClick={() => put(withNewSurface(site))}>
        Add a surface
      </button>
      <div className="mt-4 flex flex-wrap gap-x-8 gap-y-2">
        {MEASURED_TEXTS.map((text) => (
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
