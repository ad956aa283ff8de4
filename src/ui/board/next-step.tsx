import Link from "../shell/link";

/** What is to be done next on a site to which nothing was applied yet. */
export type NextStep = "pages" | "line" | "review" | "none";

/**
 * @param pages how many the site has. @param lines how many are drafted. @param changes how many texts those would change.
 */
export function nextStep(pages: number, lines: number, changes: number, hasRun: boolean): NextStep {
  if (pages === 0) return "pages";
  if (hasRun) return "none";
  return lines === 0 ? "line" : changes > 0 ? "review" : "none";
}

/** Says it, with the way there. */
export function NextStepLine({
  step,
  firstKind,
  onPropose,
}: {
  step: NextStep;
  firstKind: string;
  /** Shows first lines that fit the pages. */
  onPropose: () => void;
}) {
  if (step === "none") return null;
  return (
    <p className="mt-2 border-l-4 border-[var(--yellow)] bg-sheet px-4 py-1.5" data-next={step}>
      {step === "pages" && (
        <>
          <b>Next: bring in the site’s pages.</b> A file of them will do, as your shop or editor takes it out: an id or
          an address a row, and what is to be read of each page.{" "}
          <Link href="/bring-in" className="font-semibold underline">
            Bring them in
          </Link>
        </>
      )}
      {step === "line" && (
        <>
          <b>Next: write the first line.</b> Until there is one, every text stays what the site has.{" "}
          <Link href={`/bench?kind=${firstKind}&text=title`} className="font-semibold underline">
            Begin with the titles
          </Link>{" "}
          or{" "}
          <button type="button" className="font-semibold underline" onClick={onPropose}>
            see first lines that fit your pages
          </button>
        </>
      )}
      {step === "review" && (
        <>
          <b>Next: read what would change.</b> Nothing reaches a page before you apply it, and every run can be taken
          back.{" "}
          <Link href="/review" className="font-semibold underline">
            Open the review
          </Link>
        </>
      )}
    </p>
  );
}
