"use client";
import { useCallback, useRef, useState } from "react";

/**
 * Whether one of some elements was in view yet, so that what fills them is brought in.
 *
 * @returns for their `ref`, and the answer, which stays once it is yes.
 */
export function useSeen(): [watch: (element: Element | null) => (() => void) | undefined, isSeen: boolean] {
  const [isSeen, setSeen] = useState(false);
  const isDone = useRef(false);
  const watch = useCallback((element: Element | null) => {
    if (!element || isDone.current) return undefined;
    const observer = new IntersectionObserver((entries) => {
      if (!entries.some((entry) => entry.isIntersecting)) return;
      isDone.current = true;
      setSeen(true);
      observer.disconnect();
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [watch, isSeen];
}
