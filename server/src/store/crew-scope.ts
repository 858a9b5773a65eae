import type { DataSource, EntityManager, QueryRunner } from "typeorm";
import { TimeUp, type Deadline } from "./deadline";
import { connectionBroke, UncertainCommit } from "./trouble";

/** Who asks; it comes from the request's session, never from a path or a body. */
export interface Session {
  readonly crewId: string;
  /** Who keeps: what each version names. */
  readonly author?: string;
}

/** The crew of a machine without accounts. */
export const BUILT_IN_CREW = "00000000-0000-7000-8000-000000000001";

/** What pg's client shows of itself beside its types. */
interface Wire {
  readonly connection: { readonly stream: { destroy(): void } };
}

/** Waits for a connection; one that comes too late goes straight back. */
async function connect(runner: QueryRunner, deadline: Deadline | undefined): Promise<Wire> {
  const coming = runner.connect() as Promise<Wire>;
  if (!deadline) return coming;
  try {
    return await deadline.race(coming);
  } catch (error) {
    void coming.then(
      () => runner.release(),
      () => undefined,
    );
    throw error;
  }
}

/** How far a transaction came, for whoever must say what became of it. */
interface Progress {
  committing: boolean;
  cut: boolean;
}

async function transaction<T>(
  runner: QueryRunner,
  session: Session,
  work: (manager: EntityManager) => Promise<T>,
  progress: Progress,
): Promise<T> {
  await runner.startTransaction();
  try {
    await runner.query(`SELECT set_config('winter_bead.crew', $1, true)`, [session.crewId]);
    const outcome = await work(runner.manager);
    progress.committing = true;
    await runner.commitTransaction();
    return outcome;
  } catch (error) {
    if (progress.committing && (progress.cut || connectionBroke(error)))
      throw new UncertainCommit("The connection broke at the commit.", { cause: error });
    if (progress.cut) throw new TimeUp("The database took too long.", { cause: error });
    // The first error tells; that a broken connection can't be rolled back either tells nothing more.
    if (runner.isTransactionActive && !runner.isReleased) await runner.rollbackTransaction().catch(() => undefined);
    throw error;
  }
}

/**
 * Runs work in one transaction that sees the rows of one crew and no others.
 *
 * @param deadline by which it is over: then the connection is destroyed, for nobody knows what still runs on it
 * @throws TimeUp when the deadline came before anything was kept
 * @throws UncertainCommit when the deadline came, or the connection broke, while the work was being made to last
 */
export async function inCrew<T>(
  source: DataSource,
  session: Session,
  work: (manager: EntityManager) => Promise<T>,
  deadline?: Deadline,
): Promise<T> {
  const runner = source.createQueryRunner();
  const wire = await connect(runner, deadline);
  const progress: Progress = { committing: false, cut: false };
  const takeOff = deadline?.whenOver(() => {
    progress.cut = true;
    wire.connection.stream.destroy();
  });
  try {
    return await transaction(runner, session, work, progress);
  } finally {
    takeOff?.();
    if (!runner.isReleased) await runner.release().catch(() => undefined);
  }
}
