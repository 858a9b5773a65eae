import { choice, group, instant, list, note, optional, ownId, reference, type ValueOf } from "../descriptor/field";
import type { Id } from "../descriptor/identity";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";

/** What was done to the train. */
const DEED = choice(
  "What was done",
  {
    "hung-in": "Hung in",
    rotated: "Lead and lag rotated",
    swapped: "A spare hung in",
    "taken-out": "Taken out",
    exchanged: "Exchanged by a service",
    moved: "Moved to another rig",
    refilled: "Refilled, and hung in",
    "taken-over": "Taken over used",
  },
  { fault: "Say what was done to the train." },
);
export type TrainDeed = ValueOf<typeof DEED>;

const PLACE = group("A place", {
  stageId: ownId("The stage"),
  vesselId: optional(reference("vessels", "The vessel")),
});
/** A place for a vessel in a train, and who stands there. */
export interface Place extends ValueOf<typeof PLACE> {}

const isOnce = (ids: readonly (Id | undefined)[]) => {
  const named = ids.flatMap((each) => (each === undefined ? [] : [each.toLowerCase()]));
  return new Set(named).size === named.length;
};

/** Who stands where in a rig's train from a moment on: the whole of it, in the order the water meets them. */
export const ARRANGEMENT = kind({
  name: "arrangements",
  table: "arrangement",
  one: "train",
  many: "trains",
  partOf: { kind: "rigs", by: "rigId" },
  fields: {
    rigId: reference("rigs", "The rig"),
    at: instant("The time it was put together", { label: "When" }),
    did: optional(DEED),
    places: list("The places", PLACE, {
      least: 1,
      most: 12,
      tooFew: "An arrangement needs at least one place.",
      tooMany: "At most 12 places.",
    }),
    note,
  },
  rules: [
    {
      path: "places",
      fault: "A stage stands in a train once.",
      holds: ({ places }) => isOnce(places.map((each) => each.stageId)),
    },
    {
      path: "places",
      fault: "A vessel stands in one place at a time.",
      holds: ({ places }) => isOnce(places.map((each) => each.vesselId)),
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    at: "2027-03-01T17:00:00.000Z",
    did: "rotated",
    places: [{ stageId: sampleId("stage", 5), vesselId: sampleId("vessels") }, { stageId: sampleId("stage", 6) }],
    note: "The lag to the front.",
  },
});

export interface Arrangement extends RecordOf<typeof ARRANGEMENT> {}
