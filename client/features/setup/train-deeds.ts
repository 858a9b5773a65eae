import {
  hungIn,
  rotated,
  takenOut,
  type Arrangement,
  type Id,
  type Part,
  type Place,
  type Rig,
  type Vessel,
} from "@winter-bead/core";
import { kept, type Step } from "../../data/acts";
import { newId } from "../../data/new-id";

/** A rig with who stands where in it. */
export interface TrainNow {
  readonly rig: Pick<Rig, "id" | "name" | "stages">;
  readonly places: readonly Place[];
}

const arrangement = ({ rig }: TrainNow, did: Arrangement["did"], places: readonly Place[], at: string): Step =>
  kept("arrangements", { rigId: rig.id, at, did, places }, newId());

/** The lag to the front, the lead behind it. */
export const rotate = (train: TrainNow, at: string): readonly Step[] => [
  arrangement(train, "rotated", rotated(train.places), at),
];

/** A vessel out of the train, into the pool. */
export const takeOut = (train: TrainNow, vesselId: Id, at: string): readonly Step[] => [
  arrangement(train, "taken-out", takenOut(train.places, vesselId), at),
];

/**
 * A vessel into a place: out of the pool, out of another place of this train, or out of another rig, where its place is empty
 * from then on.
 *
 * @param from the rig it hangs in now
 */
export function hangIn(train: TrainNow, stageId: Id, vesselId: Id, from: Id | undefined, at: string): readonly Step[] {
  const before = train.places.find((each) => each.stageId === stageId)?.vesselId;
  const did = from !== undefined && from !== train.rig.id ? "moved" : before === undefined ? "hung-in" : "swapped";
  return [arrangement(train, did, hungIn(train.places, stageId, vesselId), at)];
}

/** What is known of a used rig's cartridges: all are new from today on, or nobody knows. */
export type Cartridges = "replaced" | "unknown";

const CARTRIDGES: readonly Part[] = ["sediment", "carbon"];

/**
 * A rig whose past nobody knows: each vessel's charge begins part-used, cartridges begin anew where they were replaced, and
 * nothing is taken for a baseline.
 *
 * @param vessels those that hold no charge that is counted
 */
export const takeOver = (
  train: TrainNow,
  vessels: readonly Vessel[],
  cartridges: Cartridges,
  at: string,
): readonly Step[] => [
  ...vessels.map((vessel) =>
    kept(
      "charges",
      {
        ...{ vesselId: vessel.id, rigId: train.rig.id, grade: "virgin", packing: "settled", filledAt: at },
        resinLitres: Number((vessel.grossVolume * vessel.fillFraction).toPrecision(3)),
        partUsed: { by: "unknown" },
      },
      newId(),
    ),
  ),
  ...(cartridges === "replaced"
    ? CARTRIDGES.filter((part) => train.rig.stages.some(({ kind }) => kind === part)).map((part) =>
        kept("services", { rigId: train.rig.id, part, at, note: "New when the rig was taken over." }, newId()),
      )
    : []),
  arrangement(train, "taken-over", train.places, at),
];
