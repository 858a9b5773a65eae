import type { DataSource, EntityManager } from "typeorm";

/** Who asks; it comes from the request's session, never from a path or a body. */
export interface Session {
  readonly crewId: string;
}

/** The crew of a machine without accounts. */
export const BUILT_IN_CREW = "00000000-0000-7000-8000-000000000001";

/** Runs work in one transaction that sees the rows of one crew and no others. */
export const inCrew = <T>(
  source: DataSource,
  session: Session,
  work: (manager: EntityManager) => Promise<T>,
): Promise<T> =>
  source.transaction(async (manager) => {
    await manager.query(`SELECT set_config('winter_bead.crew', $1, true)`, [session.crewId]);
    return work(manager);
  });
