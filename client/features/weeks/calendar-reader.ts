import { proxy } from "comlink";
import { WorkerLine, WorkerSilent } from "../../data/worker-line";
import type { CalendarRead } from "./calendar-read";
import type { CalendarWorker } from "./calendar.worker";

/** ms after which an event is taken to keep its reader for ever. */
const EVENT_WITHIN = 3_000;
/** ms without any sign of life: a large file is taken apart in one go. */
const PATIENCE = 15_000;
/** ms for a whole file. */
const LONGEST = 30_000;
/** Events that are left out for that; a file with more of them is not read. */
const MOST_SKIPPED = 2;

const TOO_LONG = "This calendar keeps its reader for ever; nothing of it was taken.";

const line = new WorkerLine<CalendarWorker>(
  () => new Worker(new URL("./calendar.worker", window.location.href)),
  PATIENCE,
);

let stopped = false;

/** Ends the reading under way, whatever it does. */
export function stopReading(): void {
  stopped = true;
  line.cut();
}

/**
 * Reads a calendar off the thread that draws. An event that never ends is left out and named, and the others are read.
 *
 * @returns undefined where it was stopped
 */
export async function readInWorker(
  text: string,
  from: string,
  until: string,
  onProgress: (share: number) => void,
): Promise<CalendarRead | undefined> {
  stopped = false;
  const skip: number[] = [];
  const end = performance.now() + LONGEST;
  for (;;) {
    let at: number | undefined;
    let watch: ReturnType<typeof setTimeout> | undefined;
    let ended = false;
    try {
      return await line.run((remote, alive) =>
        remote.read(
          ...([text, from, until, skip, Math.max(0, end - performance.now())] as const),
          proxy((event: number, of: number) => {
            // What was told on the way may come after the answer: it says nothing any more.
            if (ended) return;
            at = event;
            clearTimeout(watch);
            watch = setTimeout(() => line.cut(), EVENT_WITHIN);
            alive();
            onProgress(event / of);
          }),
        ),
      );
    } catch (error) {
      if (stopped) return undefined;
      if (!(error instanceof WorkerSilent)) throw error;
      if (at === undefined || skip.length >= MOST_SKIPPED || performance.now() > end)
        return { items: [], faults: [TOO_LONG] };
      skip.push(at);
    } finally {
      ended = true;
      clearTimeout(watch);
    }
  }
}
