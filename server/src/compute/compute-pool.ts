import type { ComputeName, ComputeOutcome } from "@winter-bead/contract";
import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { Piscina } from "piscina";

/** Too many calculations wait already. */
export class PoolFull extends Error {}

/** The asker went before the answer came. */
export class Stopped extends Error {}

const MOST_THREADS = 4;
/** Runs that may wait for a thread; each takes about a second at most. */
const WAITING_PER_THREAD = 8;

/** A bounded set of threads for calculations that would hold up other requests. */
export class ComputePool {
  private readonly pool: Piscina;
  private readonly room: number;
  private taken = 0;

  constructor(threads = Math.max(1, Math.min(MOST_THREADS, availableParallelism() - 1))) {
    this.room = threads * (1 + WAITING_PER_THREAD);
    this.pool = new Piscina({
      filename: fileURLToPath(new URL("./compute.worker.mjs", import.meta.url)),
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 60_000,
    });
  }

  /**
   * Runs one calculation. What works and waits is counted here: the pool's own bound does not hold for what arrives while
   * its queue is empty.
   *
   * @param signal ends the thread's work when the asker has gone
   * @throws PoolFull when too many wait; Stopped when the signal came first
   */
  async run(name: ComputeName, body: unknown, signal: AbortSignal): Promise<ComputeOutcome> {
    if (this.taken >= this.room) throw new PoolFull();
    this.taken += 1;
    try {
      return (await this.pool.run({ name, body }, { signal })) as ComputeOutcome;
    } catch (error) {
      if (signal.aborted) throw new Stopped();
      throw error;
    } finally {
      this.taken -= 1;
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
