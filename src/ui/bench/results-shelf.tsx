"use client";
import { ChevronDown, ChevronUp } from "lucide-react";
import { type ReactNode, type RefCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import { browserStorage } from "../shell/site-storage";

/** Both results stand side by side from this width on, in px. */
const WIDE = 1000;
const FOLDED = "nine-lines preview folded";

export interface ShelfLook {
  /** Whether there is room for all results. */
  readonly isWide: boolean;
  readonly isFolded: boolean;
}

/** The shelf below the rows with what the chosen page looks like as a result; folded to a line if one wants more rows. */
export function ResultsShelf({
  watch,
  children,
}: {
  watch: RefCallback<Element>;
  children: (look: ShelfLook) => ReactNode;
}) {
  const holder = useRef<HTMLElement>(null);
  const [isWide, setWide] = useState(false);
  const [isFolded, setFolded] = useFolded();
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWide(entry!.contentRect.width >= WIDE));
    observer.observe(holder.current!);
    return () => observer.disconnect();
  }, []);
  const Chevron = isFolded ? ChevronUp : ChevronDown;
  return (
    <section
      ref={holder}
      aria-label="Results"
      className={`relative shrink-0 border-t border-key bg-raised ${isFolded ? "h-[34px]" : "h-[152px]"}`}
    >
      <div ref={watch} className="flex h-full gap-7 overflow-hidden px-5 pt-2">
        {children({ isWide, isFolded })}
      </div>
      <button
        type="button"
        aria-expanded={!isFolded}
        aria-label="Preview"
        title={isFolded ? "Show the preview" : "Fold the preview: more rows"}
        onClick={() => setFolded(!isFolded)}
        className="absolute right-3 top-1 grid size-6 place-items-center rounded-sm text-soft hover:bg-hair hover:text-key"
      >
        <Chevron size={16} aria-hidden="true" />
      </button>
    </section>
  );
}

/** Whether the preview is folded, as it was left; the server does not know. */
function useFolded(): [boolean, (folded: boolean) => void] {
  const wasFolded = useSyncExternalStore(
    onNothing,
    () => browserStorage()?.getItem(FOLDED) === "1",
    () => false,
  );
  const [folded, setFolded] = useState<boolean | null>(null);
  return [
    folded ?? wasFolded,
    (next) => {
      setFolded(next);
      browserStorage()?.setItem(FOLDED, next ? "1" : "0");
    },
  ];
}

const onNothing = () => () => {};
