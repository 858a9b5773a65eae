import { useSyncExternalStore } from "react";

/** A short word after a deed, with the way back. */
export interface Toast {
  readonly words: string;
  readonly undo?: () => void;
}

const SHOWN_FOR = 9000;
let current: Toast | undefined;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function set(toast: Toast | undefined): void {
  current = toast;
  for (const listener of listeners) listener();
}

export function showToast(toast: Toast): void {
  clearTimeout(timer);
  set(toast);
  timer = setTimeout(() => set(undefined), SHOWN_FOR);
}

export function hideToast(): void {
  clearTimeout(timer);
  set(undefined);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useToast = (): Toast | undefined =>
  useSyncExternalStore(
    subscribe,
    () => current,
    () => current,
  );
