import { type WorkProgress } from "../../server/workspace/watch";
import { kindWord } from "../../core/design/kinds";

const TEXT_WORDS: Record<NonNullable<WorkProgress["text"]>, string> = {
  title: "titles",
  description: "descriptions",
  slug: "slugs",
  alt: "image descriptions",
  keywords: "meta keywords",
};

/**
 * What the server is at, in words.
 *
 * @example progressWords({ step: "proving", kind: "product", text: "title", side: "draft", share: 0.4 }) // "Setting the titles that the drafts make for products"
 */
export function progressWords({ step, kind, text, side }: WorkProgress): string {
  const pages = kindWord(kind, 2);
  const texts = text ? `the ${TEXT_WORDS[text]}` : "the texts";
  switch (step) {
    case "loading":
      return `Loading ${pages}`;
    case "matching":
      return `Looking which ${pages} the conditions take`;
    case "proving":
    case "checking":
      if (text === null) return `Reading what ${pages} say`;
      return `${step === "proving" ? "Setting" : "Checking"} ${texts} that ${side === "live" ? `${pages} have on the site` : `the drafts make for ${pages}`}`;
    case "comparing":
      return `Putting ${texts} of ${pages} beside the site’s`;
    case "weighing":
      return "Weighing the words of every page";
  }
}

/** The same with how much of it is done. */
export function progressLine(progress: WorkProgress): string {
  return `${progressWords(progress)}: ${Math.round(progress.share * 100)} %`;
}

/** Stands where the answer will be while every page is looked at: what is being done, how far it is, and that it is done once. */
export function Working({ progress, waiting }: { progress: WorkProgress | null; waiting: string }) {
  return (
    <div className="px-5 py-10" aria-hidden="true">
      <p className="font-semibold">{progress ? progressWords(progress) : waiting}</p>
      <p className="mt-1 h-[22px] text-soft">{progress ? `${Math.round(progress.share * 100)} % of it done` : ""}</p>
      <progress className="mt-2 block h-1.5 w-full max-w-[460px]" max={1} value={progress?.share ?? 0} tabIndex={-1} />
      <p className="mt-4 max-w-[460px] text-soft">
        The first look at a site goes through every page. After it only what changes is looked at again.
      </p>
    </div>
  );
}
