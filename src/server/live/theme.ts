import { limitsOf, type Site } from "../../core/design/design";
import { widthOf } from "../../core/measure/running-width";
import { type Surface, surfaceOf } from "../../core/measure/surface";
import { Refusal } from "../../core/refusal";
import { type AddedText, addedTexts, liveFigures, noteTaken, takenTexts } from "../../store/live";
import { type Db } from "../../store/open";
import { readSite } from "../../store/site";
import { saveSettings, type SiteState } from "../site/site-state";
import { type OpenedSite } from "../workspace/opened-site";

/** What a theme adds to a text, and what that takes of its room. */
export interface ThemeAddition extends AddedText {
  /** Of how many pages that were looked at. */
  readonly of: number;
  /** How wide it is on the first surface that the text has to fit, in px. */
  readonly px: number;
  /** Whether the surfaces were made narrower for it. */
  readonly isTaken: boolean;
}

const signOf = ({ text, before, behind }: Pick<AddedText, "text" | "before" | "behind">) =>
  `${text} ${before}\n${behind}`;

export function themeOf(db: Db, added: readonly AddedText[]): ThemeAddition[] {
  const site = readSite(db);
  if (!site) return [];
  const taken = takenTexts(db);
  const { pages } = liveFigures(db);
  return added.map((own) => {
    const [first] = limitsOf(site, own.text).surfaces;
    return { ...own, of: pages, px: first ? widthIn(first, own) : 0, isTaken: areStill(site, taken.get(signOf(own))) };
  });
}

/** Whether surfaces are as they were made for an addition; somebody may have given them other figures since. */
function areStill(site: Site, made: readonly Surface[] | undefined): boolean {
  if (!made) return false;
  return made.every((own) => {
    const now = surfaceOf(site, own.id);
    return now?.width === own.width && now.total === own.total;
  });
}

function widthIn(surface: Surface, { before, behind }: Pick<AddedText, "before" | "behind">): number {
  return Math.ceil(widthOf(surface, false, before) + widthOf(surface, false, behind));
}

/** Makes every surface that a text has to fit narrower by what the theme adds to it. @throws {Refusal} where it adds nothing like it. */
export function takeTheme(site: OpenedSite, asked: Pick<AddedText, "text" | "before" | "behind">): SiteState {
  const settings = readSite(site.db);
  const found = addedTexts(site.db).find((own) => signOf(own) === signOf(asked));
  if (!settings || !found) throw new Refusal("stale", "The last check did not find this any more");
  if (areStill(settings, takenTexts(site.db).get(signOf(asked))))
    throw new Refusal("invalid", "The surfaces were made narrower for this already");
  return site.db
    .transaction(() => {
      const next = withTheme(settings, asked);
      const state = saveSettings(site, next, settings);
      noteTaken(site.db, asked.text, `${asked.before}\n${asked.behind}`, limitsOf(next, asked.text).surfaces);
      return state;
    })
    .immediate();
}

/** The settings with narrower surfaces for what is added to a text. */
export function withTheme(site: Site, added: Pick<AddedText, "text" | "before" | "behind">): Site {
  const narrower = limitsOf(site, added.text).surfaces.map((surface): Surface => {
    const px = widthIn(surface, added);
    const room = surface.total ?? surface.width * surface.lines;
    const next = surface.lines === 1 ? { width: surface.width - px } : { total: room - px };
    const result = { ...surface, ...next };
    if (result.width < 1 || (result.total ?? 1) < 1)
      throw new Refusal("invalid", `What the theme adds is ${px} px wide; nothing would be left of ${surface.label}`);
    return result;
  });
  const ids = new Set(narrower.map(({ id }) => id));
  return { ...site, surfaces: [...site.surfaces.filter(({ id }) => !ids.has(id)), ...narrower] };
}
