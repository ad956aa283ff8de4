import Link from "../shell/link";

/** What is to be done next on a site to which nothing was applied yet. */
export type NextStep = "pages" | "line" | "review" | "none";

/**
 * @param pages how many the site has. @param lines how many are drafted. @param changes how many texts those would change,
 * `null` as long as that is worked out: mostly there are some.
 */
export function nextStep(pages: number, lines: number, changes: number | null, hasRun: boolean): NextStep {
  if (pages === 0) return "pages";
  if (hasRun) return "none";
  return lines === 0 ? "line" : changes === 0 ? "none" : "review";
}

/** Says it, with the way there. */
export function NextStepLine({
  step,
  isSure,
  firstKind,
  onPropose,
}: {
  step: NextStep;
  /** Until then its place is kept. */
  isSure: boolean;
  firstKind: string;
  /** Shows first lines that fit the pages. */
  onPropose: () => void;
}) {
  if (step === "none") return null;
  return (
    <p
      className={`mt-2 border-l-4 border-[var(--yellow)] bg-sheet px-4 py-1.5 ${isSure ? "" : "invisible"}`}
      data-next={isSure ? step : undefined}
    >
      {step === "pages" && (
        <>
          <b>Next: import the site’s pages.</b> Any export of your shop or editor will do: one page per row, with an id
          or an address and whatever else is known of the page.{" "}
          <Link href="/import" className="font-semibold underline">
            Import pages
          </Link>
        </>
      )}
      {step === "line" && (
        <>
          <b>Next: write the first line.</b> Until there is one, every text stays as it is on the site.{" "}
          <Link href={`/bench?kind=${firstKind}&text=title`} className="font-semibold underline">
            Start with the titles
          </Link>{" "}
          or{" "}
          <button type="button" className="font-semibold underline" onClick={onPropose}>
            see suggested lines for your pages
          </button>
        </>
      )}
      {step === "review" && (
        <>
          <b>Next: review what would change.</b> Nothing changes until you apply it, and every run can be undone.{" "}
          <Link href="/review" className="font-semibold underline">
            Open the review
          </Link>
        </>
      )}
    </p>
  );
}
