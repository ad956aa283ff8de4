import { type Site } from "../../core/design/design";
import { counted } from "../shell/format";
import { useCall } from "../shell/queries";
import { useSite } from "../shell/site-context";
import { siteStamp } from "../shell/site-stamps";

/** What addresses rest on, of settings; all else is as it is stored. */
function addressSettings(stored: Site, { slug, slashEnd, reserved }: Site): Site {
  return { ...stored, slug, slashEnd, reserved };
}

function useMoved(from: Site, to: Site | null): number | null {
  const { state } = useSite();
  const stored = state.site!;
  const asked = to && { from: addressSettings(stored, from), to: addressSettings(stored, to) };
  const { answer, isCurrent } = useCall("site.settingsMoves", asked, siteStamp(state));
  return answer && isCurrent ? answer.pages : null;
}

/** How many pages a switch would move, where the drafts are applied then. @param to `null` where nothing can be said. */
export function PagesMoved({ from, to, words }: { from: Site; to: Site | null; words: string }) {
  const pages = useMoved(from, to);
  return (
    <span className="narrow block min-h-[1.4em] text-[12px] text-soft">
      {pages === null || to === null ? "" : `${words}, it moves ${pagesWord(pages)}`}
    </span>
  );
}

/** How many pages move for what is edited and not saved. */
export function EditedMoves({ site, isRight }: { site: Site; isRight: boolean }) {
  const stored = useSite().state.site!;
  const isEdited =
    JSON.stringify(addressSettings(stored, site)) !== JSON.stringify(addressSettings(stored, stored)) && isRight;
  const pages = useMoved(stored, isEdited ? site : null);
  return (
    <p role="status" className="mb-2 min-h-[1.5em]">
      {isEdited && pages !== null && (
        <>
          What you changed here moves <b>{pagesWord(pages)}</b> when the drafts are applied.
        </>
      )}
    </p>
  );
}

function pagesWord(pages: number): string {
  return pages === 0 ? "no page" : counted(pages, "page", "pages");
}
