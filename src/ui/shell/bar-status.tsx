import { type ReactNode } from "react";
import type { SaveState } from "./draft-saver";

/**
 * What a view says in the bar. It becomes longer and shorter while work goes on: on a small screen it takes the same room whatever it says,
 * so that nothing below moves.
 *
 * @param isLong whether it has a row of its own there. @param saved where the draft stands, for a view that has one.
 */
export function BarStatus({
  isLong = false,
  saved,
  title,
  children,
}: {
  isLong?: boolean;
  saved?: SaveState;
  title?: string;
  children: ReactNode;
}) {
  return (
    <span
      className={`narrow min-w-0 truncate text-[12px] text-bar-soft ${isLong ? "small:min-h-[18px] small:w-full" : "small:order-last small:flex-1 small:basis-0"}`}
      role="status"
      data-draft={saved}
      title={title}
    >
      {children}
    </span>
  );
}
