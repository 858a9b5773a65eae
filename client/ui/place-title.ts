import { useEffect, useRef } from "react";

/** The name of the place in the browser's own title. @example usePlaceTitle("The rack") // "The rack · Winter Bead" */
export function usePlaceTitle(title: string | undefined): void {
  useEffect(() => {
    if (title) document.title = `${title} · Winter Bead`;
  }, [title]);
}

const LONGEST_WAIT = 4_000;
const heading = () => document.querySelector<HTMLElement>("main h1");

/** Whether the hand has moved on to something in the place itself. */
const isElsewhere = () => Boolean(document.activeElement?.closest("main"));

/** After going to another place the focus stands at its heading, as it would on a page of its own. */
export function useFocusOnPlace(path: string): void {
  const before = useRef(path);
  useEffect(() => {
    if (before.current === path) return;
    before.current = path;
    const from = heading();
    const focus = () => {
      const found = heading();
      // The old place's heading may still stand for a moment.
      if (!found || (found === from && found.isConnected && waited < 200)) return false;
      found.tabIndex = -1;
      found.focus({ preventScroll: true });
      return true;
    };
    let waited = 0;
    const timer = setInterval(() => {
      waited += 50;
      if ((waited > 50 && isElsewhere()) || focus() || waited > LONGEST_WAIT) clearInterval(timer);
    }, 50);
    return () => clearInterval(timer);
  }, [path]);
}

/** Goes to the place itself, past what stands before it on every place. */
export function skipToPlace(): void {
  const found = heading() ?? document.querySelector<HTMLElement>("main");
  if (!found) return;
  found.tabIndex = -1;
  found.focus();
}
