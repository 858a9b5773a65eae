import { clear, createStore, type UseStore } from "idb-keyval";
import { forgetOnDevice, namesOnDevice } from "./on-device";

const KEY = "winter-bead-example";
/** Ends every name under which the example keeps something on the device. */
const EXAMPLE = "-example";

/**
 * Whether this window shows the invented crew in place of the own one. It ends with its window, and what is entered in it
 * stays in it: other lists, another queue, and nothing is sent.
 */
export const isExample = globalThis.sessionStorage?.getItem(KEY) === "on";

/** A name on this device: the example's own where it is shown. @example nameHere("winter-bead-acts") */
export const nameHere = (name: string): string => (isExample ? `${name}${EXAMPLE}` : name);

let store: UseStore | undefined;
/** Where the example's lists lie; the own crew's lie elsewhere. */
export const exampleStore = (): UseStore => (store ??= createStore("winter-bead-example", "lists"));

/** Forgets what was tried in an example before: lists, queue, drafts and answers. */
export async function forgetExample(): Promise<void> {
  await clear(exampleStore()).catch(() => undefined);
  indexedDB.deleteDatabase(`winter-bead-acts${EXAMPLE}`);
  const names = namesOnDevice();
  for (const name of names) if (new RegExp(`^winter-bead-[a-z-]+${EXAMPLE}(:|$)`).test(name)) forgetOnDevice(name);
}

/** Shows the invented crew in this window, from its beginning. */
export async function openExample(): Promise<void> {
  await forgetExample();
  try {
    sessionStorage.setItem(KEY, "on");
  } catch {
    // Without a place to note it this window can't show another crew; it stays with its own.
  }
  location.assign("/");
}

/** Back to the own crew; what was tried in the example is forgotten when one is opened anew. */
export function leaveExample(): void {
  sessionStorage.removeItem(KEY);
  location.assign("/");
}
