import { useSyncExternalStore } from "react";
import { jsonOnDevice, keepOnDevice } from "./on-device";

/** How this person reads numbers and works; kept on the device. */
export interface Settings {
  readonly units: "metric" | "us";
  readonly theme: "auto" | "light" | "dark";
  /** One-letter keys. */
  readonly keys: "on" | "off";
}

const KEY = "winter-bead-settings";

/** Countries that buy water in gallons and read Fahrenheit. */
const US_UNITS_IN = new Set(["US", "LR", "MM"]);

/** The units of a language tag's country; without one, of English as in the United States no more than of any other. */
export function unitsOf(language: string | undefined): Settings["units"] {
  try {
    return US_UNITS_IN.has(new Intl.Locale(language ?? "en-GB").region ?? "") ? "us" : "metric";
  } catch {
    return "metric";
  }
}

const defaults = (): Settings => ({
  units: unitsOf(globalThis.navigator?.language),
  theme: "auto",
  keys: "on",
});

function read(): Settings {
  return { ...defaults(), ...jsonOnDevice<Partial<Settings>>(KEY) };
}

let current = read();
const listeners = new Set<() => void>();

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export function changeSettings(part: Partial<Settings>): void {
  current = { ...current, ...part };
  keepOnDevice(KEY, JSON.stringify(current));
  for (const listener of listeners) listener();
}

export const useSettings = (): Settings =>
  useSyncExternalStore(
    subscribe,
    () => current,
    () => current,
  );
