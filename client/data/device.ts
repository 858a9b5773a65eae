import { v7 as uuidv7 } from "uuid";

const KEY = "winter-bead-device";

/** The name by which this device signs what it keeps; made once. */
export function thisDevice(): string {
  const known = globalThis.localStorage?.getItem(KEY);
  if (known) return known;
  const made = uuidv7();
  globalThis.localStorage?.setItem(KEY, made);
  return made;
}
