/** Pauses before a piece of the app is fetched again, ms. */
const PAUSES = [300, 1_200] as const;

const pause = (milliseconds: number) => new Promise((again) => setTimeout(again, milliseconds));

/**
 * Fetches a piece of the app; one that fails is fetched again, twice.
 * @throws what the last try threw
 */
export async function fetchAgain<T>(fetchPiece: () => Promise<T>): Promise<T> {
  for (const milliseconds of PAUSES) {
    try {
      return await fetchPiece();
    } catch {
      await pause(milliseconds);
    }
  }
  return fetchPiece();
}
