import { type LinkFinding } from "../../core/links/finding-names";
import { type AddressesView } from "./addresses-url";

/** What is said of a link that has a finding, and what the finding means. */
export const FINDING_WORDS: Record<LinkFinding, { readonly label: string; readonly about: string }> = {
  broken: { label: "Broken", about: "No page is there, and nothing redirects" },
  redirected: { label: "Through a redirect", about: "A page is at the end, one hop later than it need be" },
  "not-indexed": { label: "To a noindex page", about: "The page is kept out of search results" },
  "says-nothing": { label: "Text says nothing", about: "Such as “click here”; the list is in Settings" },
  "same-text": { label: "Same text, other page", about: "Another link with this text leads to a different page" },
};

export const SHOWN_WORDS: Record<AddressesView["links"], string> = {
  all: "All links",
  ...(Object.fromEntries(Object.entries(FINDING_WORDS).map(([finding, { label }]) => [finding, label])) as Record<
    LinkFinding,
    string
  >),
  mended: "Waiting in the review",
  orphans: "Pages nobody links to",
};
