import type { Act, Body, Put, RecordKind } from "@winter-bead/contract";
import { KINDS } from "@winter-bead/core";
import { currentShape } from "@winter-bead/core/src/descriptor/kind";
import type { Id } from "@winter-bead/core";
import type { Kept } from "./api";

/** What is done to one record, with the record that it starts from. */
export type Step<K extends RecordKind = RecordKind> =
  | {
      readonly does: "keep";
      readonly kind: K;
      readonly id: Id;
      readonly body: object;
      /** What it says once it is undone, where it is not to be taken back: its id is used again. */
      readonly undone?: object;
    }
  | { readonly does: "change"; readonly kind: K; readonly from: Kept; readonly body: object }
  | { readonly does: "take-back"; readonly kind: K; readonly from: Kept };

export const kept = <K extends RecordKind>(kind: K, body: Body<K>, id: Id): Step => ({ does: "keep", kind, id, body });
/** Kept under an id that every device makes the same: of two that do so at once, one is let through. */
export const keptOnce = <K extends RecordKind>(kind: K, body: Body<K>, id: Id, undone: Body<K>): Step => ({
  ...{ does: "keep", kind, id, body },
  undone,
});
export const changed = <K extends RecordKind>(kind: K, from: Kept<K>, body: Body<K>): Step => ({
  ...{ does: "change", kind, body },
  from: from as unknown as Kept,
});
export const takenBack = <K extends RecordKind>(kind: K, from: Kept<K>): Step => ({
  ...{ does: "take-back", kind },
  from: from as unknown as Kept,
});

/** A record's own fields. */
export const bodyOf = <K extends RecordKind>({ id: _id, version: _version, voided: _voided, ...body }: Kept<K>) =>
  body as unknown as Body<K>;

const withShape = (kind: RecordKind, body: object) => ({
  body: body as Record<string, unknown>,
  shape: currentShape(KINDS[kind]),
});

function putOf(step: Step): Put {
  const { kind } = step;
  if (step.does === "keep") return { kind, id: step.id, ...withShape(kind, step.body) };
  const head = { kind, id: step.from.id, replaces: step.from.version };
  return step.does === "change" ? { ...head, ...withShape(kind, step.body) } : { ...head, voided: true };
}

/** The way back of one step: what was new is taken back, what was changed or taken back is as it was. */
function wayBack(step: Step): Put {
  const { kind } = step;
  if (step.does === "keep" && step.undone) return { kind, id: step.id, replaces: 1, ...withShape(kind, step.undone) };
  if (step.does === "keep") return { kind, id: step.id, replaces: 1, voided: true };
  return { kind, id: step.from.id, replaces: step.from.version + 1, ...withShape(kind, bodyOf(step.from)) };
}

/** @param what in the trade's words: `Refill of Van` */
export const actOf = (what: string, at: string, steps: readonly Step[]): Act => ({ at, what, puts: steps.map(putOf) });

/**
 * The act that undoes one, its steps taken back from the last to the first.
 * @param undoes the id of the act that is undone
 */
export const undoOf = (what: string, at: string, steps: readonly Step[], undoes: Id): Act => ({
  ...{ at, what, undoes },
  puts: [...steps].reverse().map(wayBack),
});
