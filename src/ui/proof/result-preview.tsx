import { type Site } from "../../core/design/design";
import { placeKeyword } from "../../core/keywords/place";
import { shownOnSurface } from "../../core/measure/cut";
import { type Surface, surfaceOf } from "../../core/measure/surface";
import { wrapOnSurface } from "../../core/measure/wrap";
import { vocabularyOf } from "../../core/proof/drawn-keyword";
import { surfaceType } from "./true-size";

/** A page's title as the tab of a browser shows it. */
export function TabPreview({ site, title }: { site: Site; title: string }) {
  const surface = surfaceOf(site, "tab")!;
  return (
    <div
      className="inline-block rounded-t-sm border border-b-0 border-hair bg-raised px-2 py-1"
      style={{ width: surface.width + 18 }}
    >
      <Lines surface={surface} text={title} keyword="" site={site} lineHeight={1.4} missing="No title" />
    </div>
  );
}

/** One page as a results page shows it, desktop or phone, with real wrapping and cut. Drawn in our own inks. */
export function ResultPreview(props: {
  site: Site;
  device: "desktop" | "phone";
  title: string;
  description: string;
  path: string;
  keyword: string;
}) {
  const title = surfaceOf(props.site, `${props.device}-title`)!;
  const description = surfaceOf(props.site, `${props.device}-description`)!;
  const host = props.site.baseUrl.replace(/^https?:\/\//, "") || "the site";
  const crumbs = [host, ...props.path.split("/").filter(Boolean)].join(" › ");
  return (
    <figure className="shrink-0" style={{ width: title.width }}>
      <figcaption className="sr-only">
        {props.device === "desktop" ? "Desktop" : "Phone"} result: {shownOnSurface(title, props.title)}.{" "}
        {shownOnSurface(description, props.description)}
      </figcaption>
      <div aria-hidden="true">
        <p
          className="truncate text-soft"
          style={{ fontFamily: surfaceType(title).fontFamily, fontSize: 12, lineHeight: "16px" }}
        >
          {crumbs}
        </p>
        <Lines
          surface={title}
          text={props.title}
          keyword={props.keyword}
          site={props.site}
          lineHeight={1.2}
          missing="No title"
        />
        <Lines
          surface={description}
          text={props.description}
          keyword={props.keyword}
          site={props.site}
          lineHeight={1.35}
          missing="No description"
          soft
        />
      </div>
    </figure>
  );
}

function Lines({
  surface,
  text,
  keyword,
  site,
  lineHeight,
  missing,
  soft,
}: {
  surface: Surface;
  text: string;
  keyword: string;
  site: Site;
  lineHeight: number;
  missing: string;
  soft?: boolean;
}) {
  const type = surfaceType(surface);
  if (text === "") {
    return (
      <p className="border border-dashed border-magenta px-1 text-magenta" style={{ ...type, lineHeight }}>
        {missing}
      </p>
    );
  }
  const shown = shownOnSurface(surface, text);
  const vocabulary = vocabularyOf(site);
  const ready = keyword === "" ? null : vocabulary.keyword(keyword);
  return (
    <div style={{ ...type, lineHeight }} className={soft ? "text-soft" : "text-key"}>
      {wrapOnSurface(surface, shown).map((line, i) => {
        const place = ready ? placeKeyword(vocabulary, ready, line) : null;
        const found = place && place.count > 0 && place.char !== null;
        return (
          <p key={i} className="proof-type">
            {found ? (
              <>
                {line.slice(0, place.char! - 1)}
                <mark className="marker text-inherit">{line.slice(place.char! - 1, place.end!)}</mark>
                {line.slice(place.end!)}
              </>
            ) : (
              line
            )}
          </p>
        );
      })}
    </div>
  );
}
