"use client";
import { useEffect } from "react";

/** Marks the page once its scripts are at work: what is drawn before that, as it came from the server, hears no click and no key yet. */
export function AtWork() {
  useEffect(() => {
    document.documentElement.dataset["atWork"] = "";
  }, []);
  return null;
}
