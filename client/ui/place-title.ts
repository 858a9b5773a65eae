import { useEffect, useRef } from "react";

/** The name of the place in the browser's own title. @example usePlaceTitle("The rack") // "The rack · Winter Bead" */
export function usePlaceTitle(title: string | undefined): void {
  useEffect(() => {
    if (title) document.title = `${title} · Winter Bead`;
  }, [title]);
}

const heading = () => document.querySelector<HTMLElement>("main h1");

/** So long a heading that stands when the address changes may still be the old place's, about to go. */
const STAYS_AFTER = 200;

/**
 * After going to another place the focus stands at its heading, as it would on a page of its own, however late that comes
 * and also when it is drawn anew; until the hand moves on.
 */
export function useFocusOnPlace(path: string): void {
  const before = useRef(path);
  useEffect(() => {
    if (before.current === path) return;
    before.current = path;
    const [from, pressed] = [heading(), document.activeElement];
    let [given, stays]: [HTMLElement | undefined, boolean] = [undefined, false];
    const settle = () => {
      const [found, active] = [heading(), document.activeElement];
      if (!found || found === given || (found === from && !stays)) return;
      // What was pressed goes with the old place, or stays the hand's.
      if (active === pressed && active?.closest("main")) return;
      given = found;
      found.tabIndex = -1;
      found.focus({ preventScroll: true });
    };
    const watch = new MutationObserver(settle);
    const end = () => {
      watch.disconnect();
      clearTimeout(timer);
      document.removeEventListener("focusin", movedOn);
    };
    // Before the heading has it, only what is focused in the place itself is the hand's: a closing sheet gives the focus back.
    const movedOn = ({ target }: FocusEvent) => {
      if (target !== given && target !== pressed && (given || (target as Element).closest("main"))) end();
    };
    const timer = setTimeout(() => {
      stays = true;
      settle();
    }, STAYS_AFTER);
    document.addEventListener("focusin", movedOn);
    watch.observe(document.body, { childList: true, subtree: true });
    settle();
    return end;
  }, [path]);
}

/** Goes to the place itself, past what stands before it on every place. */
export function skipToPlace(): void {
  const found = heading() ?? document.querySelector<HTMLElement>("main");
  if (!found) return;
  found.tabIndex = -1;
  found.focus();
}
