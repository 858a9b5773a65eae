import type { Id } from "@winter-bead/core";

/** What is not retired, and what is named now though it is. */
export const inUse = <T extends { readonly id: Id; readonly retiredOn?: string | undefined }>(
  records: readonly T[],
  now?: Id,
): readonly T[] => records.filter(({ id, retiredOn }) => retiredOn === undefined || id === now);
