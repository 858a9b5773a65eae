import pg from "pg";
import type { DatabaseAddress } from "./data-source";

const PATIENCE = 2_000;

/** Asks the database how it is, over a connection of its own, so that a busy pool is not taken for a dead database. */
export class Health {
  private readonly pool: pg.Pool;
  private asking: Promise<boolean> | undefined;

  constructor({ port, database, user, password }: DatabaseAddress) {
    this.pool = new pg.Pool({
      host: "127.0.0.1",
      port,
      database,
      user,
      password,
      max: 1,
      connectionTimeoutMillis: PATIENCE,
      query_timeout: PATIENCE,
      allowExitOnIdle: true,
    });
    this.pool.on("error", () => undefined);
  }

  /** Whether the records can be reached; whoever asks meanwhile gets the same answer. */
  ready(): Promise<boolean> {
    this.asking ??= this.ask().finally(() => {
      this.asking = undefined;
    });
    return this.asking;
  }

  private ask(): Promise<boolean> {
    return this.pool.query("SELECT 1").then(
      () => true,
      () => false,
    );
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}
