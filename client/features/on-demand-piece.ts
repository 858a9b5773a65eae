import { fetchAgain } from "../data/fetch-again";

/**
 * What only a pressed button needs, fetched when it is pressed.
 * @throws NotFetched, which the shell puts into words
 */
export const onDemand = () => fetchAgain(() => import("./on-demand"));
