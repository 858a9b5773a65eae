import type { Deadline } from "./deadline";

/** More is asked at once than can be answered in time: nothing was done. */
export class Busy extends Error {}

interface Waiter {
  readonly go: () => void;
  readonly timer: NodeJS.Timeout;
}

/**
 * Lets so much work in at once and so much more wait, each for so long: what comes on top is turned away at once, so that
 * what is under way still ends in time.
 */
export class Gate {
  private inside = 0;
  private readonly waiting: Waiter[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly mostWaiting: number,
    /** Milliseconds. */
    private readonly patience: number,
  ) {}

  /**
   * @param deadline of the request, which may come before the gate's own patience ends
   * @throws Busy when there is no room, or none in time; the work was not begun then
   */
  async run<T>(work: () => Promise<T>, deadline?: Deadline): Promise<T> {
    await this.enter(Math.min(this.patience, deadline?.left ?? Infinity));
    try {
      return await work();
    } finally {
      this.leave();
    }
  }

  private enter(patience: number): Promise<void> | undefined {
    if (this.inside < this.atOnce) {
      this.inside += 1;
      return undefined;
    }
    if (this.waiting.length >= this.mostWaiting) throw new Busy();
    return new Promise((go, turnAway) => {
      const timer = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(waiter), 1);
        turnAway(new Busy());
      }, patience);
      const waiter: Waiter = { go, timer };
      this.waiting.push(waiter);
    });
  }

  /** The place goes to whoever waits longest. */
  private leave(): void {
    const next = this.waiting.shift();
    if (!next) {
      this.inside -= 1;
      return;
    }
    clearTimeout(next.timer);
    next.go();
  }
}
