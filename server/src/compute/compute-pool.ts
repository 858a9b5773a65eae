import { DOCUMENTED, type ComputeName, type ComputeOutcome } from "@winter-bead/contract";
import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import type { Order } from "@winter-bead/core";
import type { Piscina } from "piscina";
import type { OrdersQuestion, Work } from "./compute.worker";

/** Too many calculations wait already. */
export class PoolFull extends Error {}

/** The asker went before the answer came. */
export class Stopped extends Error {}

/** The calculation was ended because it took too long. */
export class TookTooLong extends Error {}

/** Seconds from asking to answering, waiting for a thread included. */
const LONGEST_RUN = 10;

const MOST_THREADS = 4;
/** One request that takes all its time leaves a thread to the others. */
const LEAST_THREADS = 2;
/** Runs that may wait for a thread; each takes about a second at most. */
const WAITING_PER_THREAD = 8;

/** A bounded set of threads for calculations that would hold up other requests; they start once they are warmed, or with the first of these. */
export class ComputePool {
  private pool: Promise<Piscina> | undefined;
  private readonly room: number;
  private taken = 0;

  constructor(
    private readonly threads = Math.max(LEAST_THREADS, Math.min(MOST_THREADS, availableParallelism() - 1)),
    /** Seconds. */
    readonly longest = LONGEST_RUN,
  ) {
    this.room = threads * (1 + WAITING_PER_THREAD);
  }

  private async start(): Promise<Piscina> {
    const { Piscina } = await import("piscina");
    return new Piscina({
      filename: fileURLToPath(new URL("./compute.worker.mjs", import.meta.url)),
      // As many as at most: a thread ended with its asker is replaced at once. With fewer, the pool starts none until it is
      // asked again, and what waits in its queue waits for nobody.
      minThreads: this.threads,
      maxThreads: this.threads,
    });
  }

  /**
   * Runs one calculation. What works and waits is counted here: the pool's own bound does not hold for what arrives while
   * its queue is empty.
   *
   * @param gone ends the thread's work when the asker has gone
   * @throws PoolFull when too many wait; TookTooLong after `longest` seconds; Stopped when the asker went first
   */
  run(name: ComputeName, body: unknown, gone: AbortSignal): Promise<ComputeOutcome> {
    return this.work({ name, body }, gone);
  }

  /** What a crew has to order until when. @throws TookTooLong, PoolFull */
  orders(question: OrdersQuestion): Promise<readonly Order[]> {
    return this.work({ name: "orders", body: question }, new AbortController().signal);
  }

  private async work<A>(work: Work, gone: AbortSignal): Promise<A> {
    if (this.taken >= this.room) throw new PoolFull();
    this.taken += 1;
    const late = AbortSignal.timeout(1000 * this.longest);
    try {
      const pool = await (this.pool ??= this.start());
      return (await pool.run(work, { signal: AbortSignal.any([gone, late]) })) as A;
    } catch (error) {
      if (gone.aborted) throw new Stopped();
      if (late.aborted) throw new TookTooLong(`it took longer than ${this.longest} seconds`);
      throw error;
    } finally {
      this.taken -= 1;
    }
  }

  /**
   * Starts the threads and lets each work once, so that the first who asks does not wait for what a cold one has to load and
   * to compile.
   */
  async warm(): Promise<void> {
    const pool = await (this.pool ??= this.start());
    const { standing } = DOCUMENTED;
    await Promise.all(
      Array.from({ length: this.threads }, () => pool.run({ name: "standing", body: standing.example })),
    );
  }

  async close(): Promise<void> {
    await (await this.pool)?.destroy();
  }
}
