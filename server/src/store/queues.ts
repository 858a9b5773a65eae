import type { Deadline } from "./deadline";
import { Gate } from "./gate";

/** One queue for each crew: its writes go one after the other, and none of them waits for another crew's. */
export class Queues {
  private readonly gates = new Map<string, { readonly gate: Gate; inside: number }>();

  constructor(
    private readonly mostWaiting: number,
    /** Milliseconds. */
    private readonly patience: number,
  ) {}

  /** @throws Busy when too many wait already, or it would take too long; the work was not begun then */
  async run<T>(crewId: string, work: () => Promise<T>, deadline?: Deadline): Promise<T> {
    const queue = this.gates.get(crewId) ?? { gate: new Gate(1, this.mostWaiting, this.patience), inside: 0 };
    this.gates.set(crewId, queue);
    queue.inside += 1;
    try {
      return await queue.gate.run(work, deadline);
    } finally {
      queue.inside -= 1;
      if (queue.inside === 0) this.gates.delete(crewId);
    }
  }
}
