/** A piece of the app that could not be fetched, however often it was tried; its message says so to whoever asked for it. */
export class NotFetched extends Error {}

/** Pauses before a piece of the app is fetched again, ms. */
const PAUSES = [300, 1_200] as const;

const pause = (milliseconds: number) => new Promise((again) => setTimeout(again, milliseconds));

/**
 * Fetches a piece of the app; one that fails is fetched again, twice.
 * @throws NotFetched when the last try failed too
 */
export async function fetchAgain<T>(fetchPiece: () => Promise<T>): Promise<T> {
  for (const milliseconds of PAUSES) {
    try {
      return await fetchPiece();
    } catch {
      await pause(milliseconds);
    }
  }
  try {
    return await fetchPiece();
  } catch (error) {
    throw new NotFetched(
      "This part of the app could not be fetched. With a signal try again; what you entered is kept.",
      { cause: error },
    );
  }
}
