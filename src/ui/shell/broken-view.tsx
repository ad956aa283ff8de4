"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { MAIN_ACTION, PLAIN_ACTION } from "./actions";
import Link from "./link";

/** Stands in place of a view that broke: nothing is lost, it can be tried again, and all other views work. */
export function BrokenView({ error, onRetry }: { error: Error; onRetry: () => void }) {
  const heading = useRef<HTMLHeadingElement>(null);
  const queries = useQueryClient();
  useEffect(() => {
    heading.current?.focus();
    // It may have been an answer that broke it: what nobody shows any more is asked for again.
    queries.removeQueries({ type: "inactive" });
  }, [queries]);
  return (
    <div className="h-full overflow-auto px-6 py-10" role="alert">
      <h1 ref={heading} tabIndex={-1} className="text-[22px] font-bold outline-none">
        This view broke
      </h1>
      <p className="mt-3 max-w-[640px]">
        Something in it went wrong that should not have. Your drafts and everything on the server are safe, and the
        other views work.
      </p>
      <p className="mt-2 max-w-[640px] break-words font-mono text-[13px] text-soft">{error.message}</p>
      <p className="mt-5 flex items-center gap-3">
        <button type="button" className={MAIN_ACTION} onClick={onRetry}>
          Try again
        </button>
        <Link href="/" className={PLAIN_ACTION}>
          Go to the Board
        </Link>
      </p>
    </div>
  );
}
