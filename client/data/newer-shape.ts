import { useSyncExternalStore } from "react";

let seen = false;
const listeners = new Set<() => void>();

/** The server has, or this device wrote, what the other does not know yet: one of both is older. */
export function sawNewerShape(): void {
  seen = true;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Whether this page is older than what the server has: it must be loaded anew to read that. */
export const useNewerShape = (): boolean =>
  useSyncExternalStore(
    subscribe,
    () => seen,
    () => false,
  );
