import { useSyncExternalStore } from "react";

/** A short word after a deed, with the way back. */
export interface Toast {
  readonly words: string;
  /** As long as the page is open. @throws with the sentence why not */
  readonly undo?: (() => Promise<void>) | undefined;
}

const SHOWN_FOR = 9000;
/** What can be undone stands until something else can, or it is put away; a mere word stands over it for a while. */
let undoable: Toast | undefined;
let passing: Toast | undefined;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function tell(): void {
  for (const listener of listeners) listener();
}

export function showToast(toast: Toast): void {
  clearTimeout(timer);
  passing = toast.undo ? undefined : toast;
  if (toast.undo) undoable = toast;
  else
    timer = setTimeout(() => {
      passing = undefined;
      tell();
    }, SHOWN_FOR);
  tell();
}

/** Puts away what stands there. */
export function hideToast(): void {
  clearTimeout(timer);
  if (passing) passing = undefined;
  else undoable = undefined;
  tell();
}

/** Takes back what can be undone, and says how that went. */
export async function undoLast(): Promise<void> {
  const toast = undoable;
  undoable = undefined;
  tell();
  try {
    await toast?.undo?.();
    showToast({ words: "Undone." });
  } catch (error) {
    showToast({ words: (error as Error).message });
  }
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

export const useToast = (): Toast | undefined =>
  useSyncExternalStore(
    subscribe,
    () => passing ?? undoable,
    () => passing ?? undoable,
  );
