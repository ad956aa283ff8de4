import { type Kind, type TextName, TEXTS, textsOf } from "../../core/design/kinds";
import { type Filter, FILTERS, type Sort, SORTS } from "../../core/proof/row-views";
import type { SiteState } from "../../server/site/site-state";
import { shownKinds } from "../shell/site-kinds";
import { anyText, maybeNumber, oneOf, type UrlCodec, typedText, urlCodec } from "../shell/url-codec";

/** What the address bar holds of the Bench. */
export interface BenchView {
  readonly kind: Kind;
  readonly text: TextName;
  /** Whose lines are edited: the id of a rule, or `base`. */
  readonly rule: string;
  /** Which pages are shown: those that the rule decides, or all of the kind. */
  readonly pages: "own" | "all";
  readonly sort: Sort;
  readonly filter: Filter;
  readonly search: string;
  readonly item: number | null;
}

const FIRST_KIND = "product";

/** The kind that the Bench of a site opens with where its address says none. */
export function firstKind(state: Pick<SiteState, "site" | "counts" | "drafts">): Kind {
  const shown = shownKinds(state);
  return shown.includes(FIRST_KIND) ? FIRST_KIND : shown[0]!;
}

/**
 * How the Bench stands in the address bar; kind and text always do.
 *
 * @param kinds the site's. @param first the kind where none of them is said.
 */
export function benchCodec(kinds: readonly Kind[], first: Kind): UrlCodec<BenchView> {
  const { read, ...rest } = urlCodec<BenchView>(
    {
      kind: oneOf(kinds, first),
      text: oneOf(TEXTS, "title"),
      rule: anyText("base"),
      pages: oneOf(["own", "all"], "own"),
      sort: oneOf(SORTS, "widest"),
      filter: oneOf(FILTERS, "all"),
      search: typedText(),
      item: maybeNumber,
    },
    ["kind", "text"],
  );
  return {
    ...rest,
    read: (query) => {
      const view = read(query);
      return textsOf(view.kind).includes(view.text) ? view : { ...view, text: "title" };
    },
  };
}
