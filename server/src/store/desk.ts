import type { DataSource, EntityManager } from "typeorm";
import { inCrew, type Session } from "./crew-scope";
import { Deadline } from "./deadline";
import { Gate } from "./gate";
import { Queues } from "./queues";

/** Milliseconds in which a request is answered, its waiting, its connection and its statements together. */
const ANSWER_WITHIN = 4_000;

/** Reads and writes that the database does at once, together its pool; what waits longer than this is told to come again. */
const READS = { atOnce: 3, mostWaiting: 40, patience: 2_000 } as const;
const WRITES = { atOnce: 5, mostWaiting: 400, patience: 3_000 } as const;

export type CrewWork<T> = (manager: EntityManager) => Promise<T>;

/** Where every request asks for the database: so many at once, a crew's writes one after the other, each within its time. */
export class Desk {
  private readonly reads = new Gate(READS.atOnce, READS.mostWaiting, READS.patience);
  private readonly writes = new Gate(WRITES.atOnce, WRITES.mostWaiting, WRITES.patience);
  private readonly queues = new Queues(WRITES.mostWaiting, WRITES.patience);

  constructor(private readonly source: DataSource) {}

  /** @throws as `inCrew`, and Busy when it was not begun */
  read<T>(session: Session, work: CrewWork<T>): Promise<T> {
    const deadline = new Deadline(ANSWER_WITHIN);
    return this.reads.run(() => inCrew(this.source, session, work, deadline), deadline);
  }

  /** @throws as `read` */
  write<T>(session: Session, work: CrewWork<T>): Promise<T> {
    const deadline = new Deadline(ANSWER_WITHIN);
    const keep = () => inCrew(this.source, session, work, deadline);
    return this.queues.run(session.crewId, () => this.writes.run(keep, deadline), deadline);
  }
}
