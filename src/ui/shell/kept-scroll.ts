import { type RefObject, useEffect, useRef } from "react";

/** Where lists stood, by the address of the view and the list; as long as the window lives. */
const stood = new Map<string, number>();

/** The address that *Back* or *Forward* led to last, and which lists have been put back there. */
const returned = { to: "", lists: new Set<string>() };

if (typeof window !== "undefined")
  window.addEventListener("popstate", () => {
    returned.to = window.location.href;
    returned.lists.clear();
  });

/** What a person does to be elsewhere in a list: it is not put back then. */
const ELSEWHERE = ["wheel", "pointerdown", "keydown"] as const;

/**
 * Puts a list back where it stood when *Back* or *Forward* lead to it, as soon as it has rows for it.
 *
 * @param list its name, the only one of the view. @param rows how many there are so far.
 */
export function useKeptScroll(list: string, scroller: RefObject<HTMLElement | null>, rows: number): void {
  const wanted = useRef<number | null>(null);
  /** Where it stands, as the list last said: asking it makes the browser lay everything out. */
  const at = useRef(0);
  useEffect(() => {
    const { current: box } = scroller;
    if (!box) return;
    const place = `${list} ${window.location.href}`;
    if (returned.to === window.location.href && !returned.lists.has(list)) {
      returned.lists.add(list);
      wanted.current = stood.get(place) ?? null;
    }
    if (wanted.current === null) stood.set(place, at.current);
    else if (rows > 0) {
      box.scrollTop = wanted.current;
      if (Math.abs(box.scrollTop - wanted.current) <= 1) wanted.current = null;
    }
  });
  useEffect(() => {
    const { current: box } = scroller;
    if (!box) return;
    const keep = () => {
      at.current = box.scrollTop;
      if (wanted.current === null) stood.set(`${list} ${window.location.href}`, at.current);
    };
    const letGo = () => (wanted.current = null);
    box.addEventListener("scroll", keep, { passive: true });
    for (const event of ELSEWHERE) box.addEventListener(event, letGo, { passive: true });
    return () => {
      box.removeEventListener("scroll", keep);
      for (const event of ELSEWHERE) box.removeEventListener(event, letGo);
    };
  }, [list, scroller]);
}
