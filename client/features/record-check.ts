import type { complaintsAbout } from "./vessels/check-record";

/**
 * The check of records, fetched when it is first needed. Without a signal, and not on this device yet, nothing is
 * complained about here: the write waits in the queue and the server checks it as it does every one.
 */
export async function recordCheck(): Promise<typeof complaintsAbout> {
  try {
    return (await import("./on-demand")).complaintsAbout;
  } catch {
    return () => [];
  }
}
