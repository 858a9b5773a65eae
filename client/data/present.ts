import { useEffect, useState, useSyncExternalStore } from "react";
import { localDate } from "../ui/format";
import { clockNow, subscribeClock } from "./clock";

const MINUTE = 60_000;
const OLD = 30 * MINUTE;

let present = clockNow();
const listeners = new Set<() => void>();
let timer: ReturnType<typeof setInterval> | undefined;
let stopHearing: (() => void) | undefined;

function renew(): void {
  const now = clockNow();
  if (localDate(present) === localDate(now) && Math.abs(now - present) < OLD) return;
  present = now;
  for (const listener of listeners) listener();
}

/** One clock for all who look: it goes while somebody does. */
function subscribe(listener: () => void) {
  if (listeners.size === 0) {
    timer = setInterval(renew, MINUTE);
    document.addEventListener("visibilitychange", renew);
    stopHearing = subscribeClock(renew);
  }
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0) return;
    clearInterval(timer);
    document.removeEventListener("visibilitychange", renew);
    stopHearing?.();
  };
}

/**
 * The present, ms since 1970: the same for every place, so that what is worked out for one serves the next; renewed when the
 * day turns, after half an hour, when the app comes back to the front, and when the clock turns out to be off.
 */
export function useNow(): number {
  // Before the first look, so that a place opened on another day does not begin with yesterday.
  useState(() => {
    if (listeners.size === 0) renew();
  });
  useEffect(renew, []);
  return useSyncExternalStore(
    subscribe,
    () => present,
    () => present,
  );
}
