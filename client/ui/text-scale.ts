import { useSyncExternalStore } from "react";

const USUAL = 16; // px
/** From here on what stands side by side stands below each other. */
const LARGE_FROM = 1.4;

/** The reader's font size beside the usual one. */
const scaleNow = () =>
  typeof document === "undefined" ? 1 : parseFloat(getComputedStyle(document.documentElement).fontSize) / USUAL || 1;

function subscribe(listener: () => void) {
  addEventListener("resize", listener);
  return () => removeEventListener("resize", listener);
}

/** Whether the reader has set a much larger text, so that columns give way to lists. */
export const useLargeText = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => scaleNow() >= LARGE_FROM,
    () => false,
  );
