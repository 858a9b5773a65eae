import type { PersistedClient } from "@tanstack/react-query-persist-client";

/**
 * Lists that this device kept, shown at once and to be asked for again, whenever they say they came: a list dated by a clock
 * that has since been put back would be held for fresh until that time comes, and nothing would be asked.
 */
export const askedAgain = (kept: PersistedClient): PersistedClient => ({
  ...kept,
  clientState: {
    ...kept.clientState,
    queries: kept.clientState.queries.map((query) => ({ ...query, state: { ...query.state, isInvalidated: true } })),
  },
});
