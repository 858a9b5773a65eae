import { useState } from "react";

/** The part of a day's plan that is open: other days for it, or its reasons. */
export type Opened = "days" | "why" | undefined;

const openedOf = new Map<string, Opened>();

/**
 * What is open of a day, by its key, and the way to open or close it. A newer answer may take the day off the screen and
 * bring it back: then it is open still, as long as the page stands.
 */
export function useOpened(key: string): readonly [Opened, (what: Opened) => void] {
  const [opened, setOpened] = useState(() => openedOf.get(key));
  const open = (what: Opened) => {
    openedOf.set(key, what);
    setOpened(what);
  };
  return [opened, open];
}
