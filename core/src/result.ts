/** Why a calculation has no answer, in words a technician can act on. */
export interface Fault {
  /** A stable word for programs, such as `out-of-range`. */
  readonly code: string;
  /** One sentence that says what to do. */
  readonly message: string;
  /** Where in the input the trouble sits, such as `bed.volume`. */
  readonly path?: string;
}

/** Either an answer or the reason why there is none; never NaN or Infinity. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly fault: Fault };

export const succeed = <T>(value: T): Result<T> => ({ ok: true, value });

export const fail = (code: string, message: string, path?: string): Result<never> => ({
  ok: false,
  fault: path === undefined ? { code, message } : { code, message, path },
});

/** The same fault, seen from one level further out: `volume` becomes `bed.volume`. */
export function within<T>(outer: string, result: Result<T>): Result<T> {
  if (result.ok) return result;
  const { code, message, path } = result.fault;
  return fail(code, message, path === undefined ? outer : `${outer}.${path}`);
}

/** The value of a result that the caller knows to be good; throws on a fault (for constants and tests). */
export function unwrap<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(result.fault.message);
}

function isFiniteThroughout(value: unknown): boolean {
  if (typeof value === "number") return Number.isFinite(value);
  if (value === null || typeof value !== "object") return true;
  if (Array.isArray(value)) return value.every(isFiniteThroughout);
  if (ArrayBuffer.isView(value)) return (value as Float64Array).every(Number.isFinite);
  // Every option of a plan passes here: no lists of values are made for it.
  for (const key in value) if (!isFiniteThroughout((value as Record<string, unknown>)[key])) return false;
  return true;
}

/** Lets an answer through only when every number in it is finite. */
export function finite<T>(value: T): Result<T> {
  if (isFiniteThroughout(value)) return succeed(value);
  return fail("not-finite", "These figures are too large or too small together to give an answer; check their units.");
}
