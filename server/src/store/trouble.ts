import { TimeUp } from "./deadline";
import { Busy } from "./gate";

/** The connection broke while the database was told to keep: it may have, or not. */
export class UncertainCommit extends Error {}

/** Trouble of the store that is expected now and then and is no mistake of the program. */
export type StoreTrouble = "unreachable" | "uncertain" | "disk-full" | "busy";

/** What is known of an error of the database, through whatever wrapped it. */
export interface DatabaseError {
  /** SQLSTATE of the database, or a code of the socket. */
  readonly code: string;
  readonly constraint: string;
  readonly table: string;
  readonly message: string;
}

interface Wrapped {
  readonly name?: string;
  readonly code?: unknown;
  readonly constraint?: unknown;
  readonly table?: unknown;
  readonly message?: unknown;
  readonly driverError?: Wrapped;
}

export function databaseErrorOf(error: unknown): DatabaseError {
  const outer = error as Wrapped;
  const { code, constraint, table } = outer.driverError ?? outer;
  const text = (value: unknown) => (typeof value === "string" ? value : "");
  return { code: text(code), constraint: text(constraint), table: text(table), message: text(outer.message) };
}

/** Of the socket, of class 08, or a server that starts or stops (class 57P). */
const OUT_OF_REACH = /^(ECONN|EPIPE|ETIMEDOUT|EHOST|08|57P)/;
/** What pg and TypeORM say, without a code, when the connection went away under them. */
const WENT_AWAY =
  /Connection terminated|Client has encountered|Client was closed|not queryable|driver not connected|already released|TransactionNotStarted|transaction is not started/i;
const DISK_FULL = new Set(["53100", "ENOSPC", "EDQUOT"]);
/** Out of memory or connections, a lock or a statement that took too long, two writes in each other's way, a failing disk. */
const TRY_LATER = /^(53|55P03|57014|40001|40P01|58)/;
const NO_CONNECTION_IN_TIME = /timeout exceeded when trying to connect/i;

/** Whether the connection broke, so that the outcome of what was under way is not known. */
export function connectionBroke(error: unknown): boolean {
  const { code, message } = databaseErrorOf(error);
  return OUT_OF_REACH.test(code) || (code === "" && WENT_AWAY.test(message));
}

/** Which expected trouble an error is; undefined for any other. */
export function storeTroubleOf(error: unknown): StoreTrouble | undefined {
  if (error instanceof Busy) return "busy";
  if (error instanceof UncertainCommit) return "uncertain";
  if (error instanceof TimeUp) return "unreachable";
  const { code, message } = databaseErrorOf(error);
  if (DISK_FULL.has(code)) return "disk-full";
  if (TRY_LATER.test(code) || NO_CONNECTION_IN_TIME.test(message)) return "busy";
  return connectionBroke(error) ? "unreachable" : undefined;
}
