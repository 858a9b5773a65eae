import { recallTaught, taughtSoFar, type Taught } from "@winter-bead/core";
import { createStore, get, set } from "idb-keyval";

const LESSONS = "lessons";

interface Kept {
  /** The worker's own address, which changes with its arithmetic. */
  readonly by: string;
  readonly taught: Taught;
}

const lessons = createStore("winter-bead-lessons", LESSONS);

let known: ReadonlySet<string> = new Set();
const remember = (taught: Taught) => (known = new Set(taught.map(([from]) => from)));

/** What ended charges taught before the app was closed, so that it isn't learnt again; where the device can't tell, it is. */
export async function recallLessons(by: string): Promise<void> {
  try {
    const kept = await get<Kept>(LESSONS, lessons);
    if (kept?.by !== by) return;
    recallTaught(kept.taught);
    remember(kept.taught);
  } catch {
    // Learnt again.
  }
}

/** Keeps what they taught since; without room for it the next start learns it again. */
export async function keepLessons(by: string): Promise<void> {
  const taught = taughtSoFar();
  if (taught.every(([from]) => known.has(from))) return;
  remember(taught);
  try {
    await set(LESSONS, { by, taught } satisfies Kept, lessons);
  } catch {
    // Learnt again.
  }
}
