import { type WorkProgress } from "../../server/workspace/watch";
import { kindWord, type WithKinds } from "../../core/design/kinds";

const TEXT_WORDS: Record<NonNullable<WorkProgress["text"]>, string> = {
  title: "titles",
  description: "descriptions",
  slug: "slugs",
  alt: "image descriptions",
  keywords: "meta keywords",
  canonical: "canonicals",
};

/**
 * What the server is at, in words.
 *
 * @example progressWords(null, { step: "proving", kind: "product", text: "title", side: "draft", share: 0.4 }) // "Setting the titles that the drafts make for products"
 */
export function progressWords(site: WithKinds, { step, kind, text, side }: WorkProgress): string {
  const pages = kindWord(site, kind, 2);
  const texts = text ? `the ${TEXT_WORDS[text]}` : "the texts";
  switch (step) {
    case "loading":
      return `Loading ${pages}`;
    case "matching":
      return `Finding which ${pages} the conditions match`;
    case "proving":
    case "checking":
      if (text === null) return `Reading what ${pages} say`;
      return `${step === "proving" ? "Setting" : "Checking"} ${texts} that ${side === "live" ? `${pages} have on the site` : `the drafts make for ${pages}`}`;
    case "comparing":
      return `Putting ${texts} of ${pages} beside the site’s`;
    case "weighing":
      return "Analysing every page";
  }
}

/** The same with how much of it is done. */
export function progressLine(site: WithKinds, progress: WorkProgress): string {
  return `${progressWords(site, progress)}: ${Math.round(progress.share * 100)} %`;
}
