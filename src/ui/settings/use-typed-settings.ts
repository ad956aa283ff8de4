"use client";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { Site } from "../../core/design/design";
import { browserStorage } from "../shell/site-storage";
import { keepSettings, keptSettings } from "./kept-settings";
import { changedOnto, goingOnFrom, same, type TypedSettings } from "./typed-settings";

/**
 * Settings as they are typed. What is not saved outlives the window, what is wrong with it, too; what another window stores meanwhile is
 * gone on from.
 */
export function useTypedSettings(stored: Site) {
  const [typed, setTyped] = useState<TypedSettings>({ site: stored, of: stored });
  const [known, setKnown] = useState(stored);
  if (known !== stored) {
    setKnown(stored);
    setTyped((now) => goingOnFrom(stored, now));
  }
  const isChanged = !same(typed.site, typed.of);
  useEffect(() => {
    const kept = keptSettings(browserStorage(), stored);
    if (kept) {
      setTyped({ site: kept, of: stored });
      toast("Your unsaved settings were restored");
    }
  }, []); // eslint-disable-line react-hooks/exhaustive-deps
  const isFirst = useRef(true);
  useEffect(() => {
    // Before what was kept is here again nothing is written over it.
    if (!isFirst.current) keepSettings(browserStorage(), isChanged ? typed : null);
    isFirst.current = false;
  }, [typed, isChanged]);
  return {
    typed,
    isChanged,
    put: (change: Partial<Site>) => setTyped((now) => ({ ...now, site: { ...now.site, ...change } })),
    discard: () => setTyped({ site: stored, of: stored }),
    /** Takes in what the server made of settings that were sent. What was typed meanwhile is not saved yet. */
    accept: (sent: Site, saved: Site) =>
      setTyped((now) => ({ site: changedOnto(saved, sent, now.site) as Site, of: saved })),
  };
}
