/*
 * Small things kept on this device by name. Storage that is full, or closed to the app, costs a convenience here and never
 * what the hand was doing: every write is guarded, and says whether it lies there.
 */

/** What is kept under a name; null where nothing is, or nothing can be read. */
export function onDevice(name: string): string | null {
  try {
    return globalThis.localStorage?.getItem(name) ?? null;
  } catch {
    return null;
  }
}

/** @returns whether it was kept */
export function keepOnDevice(name: string, text: string): boolean {
  try {
    globalThis.localStorage?.setItem(name, text);
    return true;
  } catch {
    return false;
  }
}

export function forgetOnDevice(name: string): void {
  try {
    globalThis.localStorage?.removeItem(name);
  } catch {
    // What can't be reached is not shown again either.
  }
}

/** What was kept as JSON under a name; undefined where that is nothing, or unreadable. */
export function jsonOnDevice<T>(name: string): T | undefined {
  try {
    return (JSON.parse(onDevice(name) ?? "null") as T | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** Every name under which something is kept. */
export function namesOnDevice(): readonly string[] {
  try {
    return Array.from({ length: localStorage.length }, (_, i) => localStorage.key(i)!);
  } catch {
    return [];
  }
}
