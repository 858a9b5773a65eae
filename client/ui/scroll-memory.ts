import { useEffect, useRef } from "react";

/** How far each entry of the browser's history was scrolled; a place gone back to stands where it was left. */
const scrolled = new Map<string, number>();
let wentBack = false;

/** Within this time after going back a place comes up; one that comes later was gone to, and begins at its top. */
const BACK_FOR = 1_000;
const RESTORE_FOR = 2_000;

globalThis.addEventListener?.("popstate", () => {
  wentBack = true;
  setTimeout(() => {
    wentBack = false;
  }, BACK_FOR);
});

/**
 * Keeps the scroll of a scrolling column by its address, and gives it back when one comes back.
 * @param part of the place, where it has more than one column
 */
export function useScrollMemory(part = "") {
  const key = useRef(typeof location === "undefined" ? "" : location.pathname + location.search + part).current;
  const node = useRef<HTMLElement | null>(null);
  const restoring = useRef(wentBack && scrolled.has(key));
  useEffect(() => {
    if (!restoring.current) return;
    const wanted = scrolled.get(key)!;
    const began = Date.now();
    const timer = setInterval(() => {
      const place = node.current;
      if (place) place.scrollTop = wanted;
      // What is scrolled to may still be on its way.
      if (Math.abs((place?.scrollTop ?? 0) - wanted) < 2 || Date.now() - began > RESTORE_FOR) {
        restoring.current = false;
        clearInterval(timer);
      }
    }, 30);
    return () => clearInterval(timer);
  }, [key]);
  return {
    ref: (found: unknown) => {
      const scroller = (found as { getScrollableNode?: () => HTMLElement } | null)?.getScrollableNode?.();
      node.current = scroller ?? null;
    },
    onScroll: (event: { nativeEvent: { contentOffset: { y: number } } }) => {
      if (!restoring.current) scrolled.set(key, event.nativeEvent.contentOffset.y);
    },
  };
}
