import { type WorkProgress } from "../../server/workspace/watch";
import { progressWords } from "./progress-words";
import { useSite } from "./site-context";

/** Stands where the answer will be while every page is looked at: what is being done, how far it is, and that it is done once. */
export function Working({ progress, waiting }: { progress: WorkProgress | null; waiting: string }) {
  const { site } = useSite().state;
  return (
    <div className="px-5 py-10" aria-hidden="true">
      <p className="font-semibold">{progress ? progressWords(site, progress) : waiting}</p>
      <p className="mt-1 h-[22px] text-soft">{progress ? `${Math.round(progress.share * 100)} % done` : ""}</p>
      <progress className="mt-2 block h-1.5 w-full max-w-[460px]" max={1} value={progress?.share ?? 0} tabIndex={-1} />
      <p className="mt-4 max-w-[460px] text-soft">
        The first check goes through every page. After that, only changes are checked again.
      </p>
    </div>
  );
}
