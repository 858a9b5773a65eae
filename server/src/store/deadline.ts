/** Time ran out before the work was done: it was not kept. */
export class TimeUp extends Error {}

/** The moment by which a request is answered, whatever it waits for. */
export class Deadline {
  private readonly endsAt: number;

  /** @param milliseconds from now */
  constructor(milliseconds: number) {
    this.endsAt = performance.now() + milliseconds;
  }

  /** Milliseconds that are left; 0 once it is over. */
  get left(): number {
    return Math.max(0, this.endsAt - performance.now());
  }

  /** Calls back once it is over, unless it is taken off before. @returns takes it off */
  whenOver(callBack: () => void): () => void {
    const timer = setTimeout(callBack, this.left);
    return () => clearTimeout(timer);
  }

  /** Ends as the work does. @throws TimeUp once it is over; the work may go on then, and nobody waits for it */
  race<T>(work: Promise<T>): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const takeOff = this.whenOver(() => reject(new TimeUp()));
      work.then(resolve, reject).finally(takeOff);
    });
  }
}
