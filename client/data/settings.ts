import { useSyncExternalStore } from "react";

/** How this person reads numbers; kept on the device. */
export interface Settings {
  readonly units: "metric" | "us";
  readonly theme: "auto" | "light" | "dark";
}

const KEY = "winter-bead-settings";
const DEFAULTS: Settings = { units: "metric", theme: "auto" };

function read(): Settings {
  try {
    return { ...DEFAULTS, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Settings>) };
  } catch {
    return DEFAULTS;
  }
}

let current = read();
const listeners = new Set<() => void>();

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export function changeSettings(part: Partial<Settings>): void {
  current = { ...current, ...part };
  localStorage.setItem(KEY, JSON.stringify(current));
  for (const listener of listeners) listener();
}

export const useSettings = (): Settings =>
  useSyncExternalStore(
    subscribe,
    () => current,
    () => current,
  );
