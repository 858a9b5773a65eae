import type { QueryClient } from "@tanstack/react-query";
import type { Kept } from "./api";
import type { Accepted } from "./outbox";
import { keyOf } from "./list-key";
import { upserted } from "./overlay";

/**
 * Lays accepted writes into the lists that are known here. A list that is just being fetched may have left the server
 * before the write came there: it is asked for again, so that neither what was kept nor what else is new is missing.
 */
export async function layAnswers(queryClient: QueryClient, accepted: readonly Accepted[]): Promise<void> {
  const kept = accepted.flatMap(({ records }) => records);
  for (const kind of new Set(kept.map((each) => each.kind))) {
    const queryKey = keyOf(kind);
    const records = kept.filter((each) => each.kind === kind).map((each) => each.record);
    const beingFetched = queryClient.isFetching({ queryKey }) > 0;
    await queryClient.cancelQueries({ queryKey });
    queryClient.setQueryData<readonly Kept[]>(queryKey, (list) => upserted(list, records));
    if (beingFetched || queryClient.getQueryData(queryKey) === undefined)
      await queryClient.refetchQueries({ queryKey, type: "active" });
  }
}
