import type { DataSource, EntityManager, QueryRunner } from "typeorm";
import { connectionBroke, UncertainCommit } from "./trouble";

/** Who asks; it comes from the request's session, never from a path or a body. */
export interface Session {
  readonly crewId: string;
  /** Who keeps: what each version names. */
  readonly author?: string;
}

/** The crew of a machine without accounts. */
export const BUILT_IN_CREW = "00000000-0000-7000-8000-000000000001";

async function commit(runner: QueryRunner): Promise<void> {
  try {
    await runner.commitTransaction();
  } catch (error) {
    if (connectionBroke(error)) throw new UncertainCommit("The connection broke at the commit.", { cause: error });
    throw error;
  }
}

/**
 * Runs work in one transaction that sees the rows of one crew and no others.
 *
 * @throws UncertainCommit when the connection broke while the work was being made to last
 */
export async function inCrew<T>(
  source: DataSource,
  session: Session,
  work: (manager: EntityManager) => Promise<T>,
): Promise<T> {
  const runner = source.createQueryRunner();
  try {
    await runner.startTransaction();
    try {
      await runner.query(`SELECT set_config('winter_bead.crew', $1, true)`, [session.crewId]);
      const outcome = await work(runner.manager);
      await commit(runner);
      return outcome;
    } catch (error) {
      // The first error tells; that a broken connection can't be rolled back either tells nothing more.
      if (runner.isTransactionActive && !runner.isReleased) await runner.rollbackTransaction().catch(() => undefined);
      throw error;
    }
  } finally {
    if (!runner.isReleased) await runner.release().catch(() => undefined);
  }
}
