import { wrap, type Remote } from "comlink";

/** The worker said nothing for too long, or broke: its work is not done, and is not done elsewhere. */
export class WorkerSilent extends Error {}

/** Milliseconds without a sign of life, while it works, after which a worker is taken for dead. */
const PATIENCE = 20_000;

interface Running<W> {
  readonly worker: Worker;
  readonly remote: Remote<W>;
}

/**
 * The one way to call a worker: one job at a time, in the order asked. The watch is on the worker's own silence, from the
 * moment it began this job or last told of its progress, so that a long queue is never taken for a dead worker. A dead one
 * is ended and the next job gets a fresh one; the same work is never done on the thread that draws.
 */
export class WorkerLine<W> {
  private running: Running<W> | undefined;
  private last: Promise<unknown> = Promise.resolve();
  private broke: (why: string) => void = () => undefined;

  /** @param start makes the worker; called when it is first needed, and after one died */
  constructor(
    private readonly start: () => Worker,
    private readonly patience = PATIENCE,
  ) {}

  /**
   * @param job gets the worker and a way to say that it still lives
   * @throws WorkerSilent when it died
   */
  run<A>(job: (remote: Remote<W>, alive: () => void) => A): Promise<Awaited<A>> {
    const mine = this.last.then(() => this.watched(job));
    this.last = mine.catch(() => undefined);
    return mine;
  }

  /** Says something to the worker as it runs, past the line: to stop its work. */
  now(tell: (remote: Remote<W>) => void): void {
    if (this.running) tell(this.running.remote);
  }

  /** Ends the work under way at once, whatever it does. */
  cut(): void {
    this.broke("It was stopped.");
  }

  private async watched<A>(job: (remote: Remote<W>, alive: () => void) => A): Promise<Awaited<A>> {
    const { remote } = (this.running ??= this.begin());
    let watch: ReturnType<typeof setTimeout> | undefined;
    const died = new Promise<never>((_, reject) => {
      this.broke = (why) => reject(new WorkerSilent(why));
    });
    const alive = () => {
      clearTimeout(watch);
      watch = setTimeout(() => this.broke("The worker stays silent."), this.patience);
    };
    alive();
    try {
      return await Promise.race([job(remote, alive), died]);
    } catch (error) {
      if (error instanceof WorkerSilent) this.end();
      throw error;
    } finally {
      clearTimeout(watch);
      this.broke = () => undefined;
    }
  }

  private begin(): Running<W> {
    const worker = this.start();
    worker.addEventListener("error", () => this.broke("The worker broke."));
    return { worker, remote: wrap<W>(worker) };
  }

  private end(): void {
    this.running?.worker.terminate();
    this.running = undefined;
  }
}
