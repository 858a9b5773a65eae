import { useSyncExternalStore } from "react";
import { jsonOnDevice, keepOnDevice } from "./on-device";

/*
 * What time it is. A phone whose clock is off would date what it keeps wrongly, and judge every vessel by a day that is not
 * today; each answer of the server carries its time, and where both differ by much the server's counts. A device that never
 * reached the server trusts its own.
 */

/** A difference up to this is no trouble, ms. */
const MUCH = 600_000;
/** An answer that took longer says too little of the time, ms. */
const LONGEST_ANSWER = 30_000;
/** A difference seen in an earlier window still holds for so long, ms, as long as nobody has put the clock right. */
const REMEMBERED_FOR = 2 * 86_400_000;
/** Answers tell to the second: what changes by less is the same, ms. */
const SAME = 5_000;

const KEY = "winter-bead-clock";

/** By how much this device's clock is ahead of the server's, ms, and when that was seen, by the device. */
interface Seen {
  readonly ahead: number;
  readonly at: number;
}

function remembered(): Seen | undefined {
  const seen = jsonOnDevice<Seen>(KEY);
  const age = seen ? Date.now() - seen.at : NaN;
  return age > -MUCH && age < REMEMBERED_FOR ? seen : undefined;
}

let seen = remembered();
const listeners = new Set<() => void>();

export function subscribeClock(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/**
 * Takes note of the time that an answer of the server carried.
 * @param date its `Date`
 * @param askedAt by this device's clock, ms since 1970
 */
export function heardTime(date: string | null, askedAt: number, heardAt = Date.now()): void {
  const told = date === null ? NaN : Date.parse(date);
  const took = heardAt - askedAt;
  if (Number.isNaN(told) || took < 0 || took > LONGEST_ANSWER) return;
  const ahead = Math.round((askedAt + heardAt) / 2 - (told + 500));
  const changed = seen === undefined || Math.abs(ahead - seen.ahead) > SAME;
  if (!changed && heardAt - seen!.at < MUCH) return;
  seen = { ahead, at: heardAt };
  keepOnDevice(KEY, JSON.stringify(seen));
  if (changed) for (const listener of listeners) listener();
}

/** By how much this device's clock is ahead of the right time, ms; 0 while that is little, or not known. */
export const clockAhead = (): number => (seen && Math.abs(seen.ahead) > MUCH ? seen.ahead : 0);

/** A clock that was set otherwise: more than slow answers, or a difference about as large as `MUCH`, can make of it, ms. */
const JUMP = 900_000;

/** Tells when the device's clock was set otherwise while the app was open: what it dated before says nothing of its age. */
export function subscribeClockSet(listener: () => void) {
  let before = clockAhead();
  return subscribeClock(() => {
    if (Math.abs(clockAhead() - before) < JUMP) return;
    before = clockAhead();
    listener();
  });
}

/** Milliseconds since 1970. */
export const clockNow = (): number => Date.now() - clockAhead();

export const clockNowIso = (): string => new Date(clockNow()).toISOString();

/** By how much this device's clock is ahead; drawn anew as that changes. */
export const useClockAhead = (): number => useSyncExternalStore(subscribeClock, clockAhead, clockAhead);
