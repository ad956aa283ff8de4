"use client";
import { useEffect } from "react";

/** Does something whenever one comes back to this window: what others did meanwhile is not heard of otherwise. */
export function useReturning(onReturn: () => void): void {
  useEffect(() => {
    const look = () => document.visibilityState === "visible" && onReturn();
    document.addEventListener("visibilitychange", look);
    window.addEventListener("focus", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      window.removeEventListener("focus", look);
    };
  }, [onReturn]);
}
