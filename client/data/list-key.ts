import type { RecordKind } from "@winter-bead/contract";

/** Under which a kind's list is known to the lists' cache. */
export const keyOf = (kind: RecordKind) => ["records", kind] as const;
