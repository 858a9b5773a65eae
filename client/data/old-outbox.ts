import type { Act } from "@winter-bead/contract";
import type { Id } from "@winter-bead/core";
import { v5 as uuidv5 } from "uuid";

/** Where versions of this page up to the first acts left what was unsent: one row a record. */
export const OLD_OUTBOX = { database: "winter-bead", store: "outbox" } as const;

export interface OldRow {
  readonly seq: number;
  readonly kind: string;
  readonly id: Id;
  readonly body: object;
  readonly replaces?: number;
  readonly voided?: boolean;
  readonly madeAt: string;
}

const NAMESPACE = "0194c000-0000-7000-8000-0000000000ac";

/** An old row as an act of one, under an id that follows from it. */
export function actOfOldRow({ kind, id, body, replaces, voided, madeAt }: OldRow): {
  readonly id: Id;
  readonly act: Act;
  readonly madeAt: string;
} {
  const head = { kind, id, ...(replaces === undefined ? {} : { replaces }) };
  const put = voided
    ? { ...head, replaces: replaces ?? 1, voided: true as const }
    : { ...head, body: body as Record<string, unknown>, shape: 1 };
  return {
    id: uuidv5([kind, id, replaces ?? 0, voided === true].join(" "), NAMESPACE),
    act: { at: madeAt, what: "Kept without a signal", puts: [put] },
    madeAt,
  };
}
