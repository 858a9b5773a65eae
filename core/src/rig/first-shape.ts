import type { Id, Instant } from "../descriptor/identity";
import { MOST_VERSIONS, type Beside, type OldBody, type Upcast } from "../descriptor/kind";
import type { Arrangement, Place } from "./arrangement.record";

/** A stage of a rig's first shape: it had no id, and a resin stage named its one vessel. */
export interface StageOfFirstShape {
  readonly kind: string;
  readonly vesselId?: Id;
}

const STAGE_IDS = "0194b000-0000-7000-8000-57a9e0000000";

/** The id that a stage of a rig's first shape gets by its place, from 0: the same on every device and at every time. */
export const stageIdAt = (place: number): Id => STAGE_IDS.slice(0, -2) + (place + 1).toString(16).padStart(2, "0");

/** A rig of the first shape as one of the second: its stages get ids; which vessels they named is `firstPlaces`. */
export const withStageIds: Upcast = (body) => {
  const stages = body["stages"];
  if (!Array.isArray(stages)) return body;
  return {
    ...body,
    stages: stages.map((stage: unknown, i) => {
      if (stage === null || typeof stage !== "object" || "id" in stage) return stage;
      const { vesselId: _named, ...rest } = stage as StageOfFirstShape;
      return { id: stageIdAt(i), ...rest };
    }),
  };
};

/** Places of a rig of the first shape, whose stages named their vessels. */
export const firstPlaces = (stages: readonly StageOfFirstShape[]): readonly Place[] =>
  stages.flatMap(({ kind: what, vesselId }, i) =>
    what === "resin" && vesselId !== undefined ? [{ stageId: stageIdAt(i), vesselId }] : [],
  );

/** Three digits, of which each version up to the last that there may be gives another. */
const DIGITS = MOST_VERSIONS + 1;

/**
 * The id of the arrangement that a rig of the first shape becomes, the same on every device and at every time.
 * @param version the rig's version that it comes from
 * @example arrangementIdOf("01890000-0000-7000-8000-000000000001", 1) // "01890000-0000-8001-8000-000000000001"
 */
export function arrangementIdOf(rigId: Id, version: number): Id {
  const digits = (Number.parseInt(rigId.slice(15, 18), 16) ^ version) % DIGITS;
  return `${rigId.slice(0, 14)}8${digits.toString(16).padStart(3, "0")}${rigId.slice(18)}`;
}

/** The arrangement that a rig of the first shape says; undefined where its stages name no vessel. */
export function arrangementOf(
  rigId: Id,
  stages: readonly StageOfFirstShape[],
  at: Instant,
  version = 1,
): Arrangement | undefined {
  const places = firstPlaces(stages);
  return places.length === 0 ? undefined : { id: arrangementIdOf(rigId, version), rigId, at, places };
}

/** Its arrangement as a record beside it. */
export function besideOldRig({ id, version, body, shape, at }: OldBody): Beside | undefined {
  if (shape > 1 || !Array.isArray(body["stages"])) return undefined;
  const found = arrangementOf(id, body["stages"] as readonly StageOfFirstShape[], at, version);
  if (!found) return undefined;
  const { id: own, ...arrangement } = found;
  return { kind: "arrangements", id: own, body: arrangement, saidBy: "stages" };
}
