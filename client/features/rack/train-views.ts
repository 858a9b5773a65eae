import { Trains, type Id, type Stage, type TrainAct, type Vessel } from "@winter-bead/core";
import type { Assessment, BedAssessment, RigFacts } from "./assess";
import type { RigView } from "./useRigs";

/** A rig's view with one vessel of its train in the middle: what is said is of that one. */
export function vesselView(view: RigView, vesselId: Id): RigView {
  const { facts, assessment } = view;
  const vessel = facts.train.vessels.find(({ id }) => id === vesselId) ?? facts.vessel;
  if (vessel.id === facts.vessel.id) return view;
  const bed = assessment?.beds?.find((each) => each.vesselId === vesselId);
  const own: Assessment = bed
    ? {
        standing: { ...bed.standing, verdict: bed.verdict },
        verdict: bed.verdict,
        ...(bed.dates ? { dates: bed.dates } : {}),
        ...(bed.front ? { front: bed.front } : {}),
        ...(assessment?.owners ? { owners: assessment.owners } : {}),
      }
    : { because: "No charge is in use in this vessel." };
  return { ...view, facts: { ...facts, vessel }, assessment: own };
}

/** Vessels that stand in a rig now, in the order of the flow. */
export function vesselsHere({ rig, train, now }: Pick<RigFacts, "rig" | "train" | "now">): readonly Vessel[] {
  const known = new Map(train.vessels.map((vessel) => [vessel.id, vessel]));
  return new Trains(train.arrangements).at(rig.id, now).flatMap(({ vesselId }) => known.get(vesselId) ?? []);
}

/**
 * The vessels that an answer is about, in the order of the flow: as they were arranged when it was worked out, for what a
 * hand just changed is answered a moment later.
 */
export function bedNames({ facts, assessment }: Pick<RigView, "facts" | "assessment">): readonly string[] {
  const known = new Map(facts.train.vessels.map(({ id, name }) => [id, name]));
  return assessment?.beds?.map(({ vesselId }) => known.get(vesselId) ?? "one that was taken back") ?? [];
}

/** What an act is, by the names of the vessels. @example actWords("run-out", ["Bottle A", "Bottle B"]) // "Use Bottle A up first" */
export function actWords(act: TrainAct, [lead, next]: readonly string[]): string {
  if (act === "rotate") return `Refill ${lead} now, ${next} leads`;
  if (act === "run-lead") return `Run ${lead} to near exhaustion, then refill it; ${next} guards`;
  return act === "run-out" ? `Use ${lead} up first` : "Refill all of them now";
}

/** Those that stood there once, and have charges to look back on. */
export function vesselsBefore(facts: RigFacts): readonly Vessel[] {
  const here = new Set(vesselsHere(facts).map(({ id }) => id));
  const ever = new Trains(facts.train.arrangements).everIn(facts.rig.id);
  const all = [...facts.charges, ...facts.elsewhere.charges];
  return facts.train.vessels.filter(
    ({ id }) => ever.has(id) && !here.has(id) && all.some(({ vesselId }) => vesselId === id),
  );
}

/** A stage as it is drawn: what it is, and of a place for resin who stands there and how. */
export interface DrawnStage {
  readonly id: Id;
  readonly kind: Stage["kind"];
  readonly vessel?: Vessel;
  readonly bed?: BedAssessment;
}

/** Stages from the tap to the tool as they stand now; a place in the train of which no stage is left stands at the end. */
export function drawnStages({ facts, assessment }: RigView): readonly DrawnStage[] {
  const { rig, train, now } = facts;
  const places = new Trains(train.arrangements).placesAt(rig.id, now);
  const resin = (id: Id): DrawnStage => {
    const vesselId = places.find(({ stageId }) => stageId === id)?.vesselId;
    const vessel = train.vessels.find((each) => each.id === vesselId);
    const bed = assessment?.beds?.find((each) => each.vesselId === vesselId);
    return { id, kind: "resin", ...(vessel ? { vessel } : {}), ...(bed ? { bed } : {}) };
  };
  // The vessels stand in the order of their arrangement, whatever the stages say since.
  const inOrder = places.map(({ stageId }) => stageId);
  let next = 0;
  const known = new Set(inOrder);
  const stages = rig.stages.map(({ id, kind }): DrawnStage => {
    if (kind !== "resin") return { id, kind };
    return resin(known.has(id) ? inOrder[next++]! : id);
  });
  return [...stages, ...inOrder.slice(next).map(resin)];
}

/** What asks for a refill of a bed, most urgent first. */
const ASKS: readonly ((bed: BedAssessment) => boolean)[] = [
  ({ verdict }) => verdict.reasons.includes("lead-spent"),
  ({ verdict }) => verdict.state === "change",
  ({ verdict }) => verdict.state === "finish",
];

/**
 * The vessel that is filled anew first: an empty one, the one that is spent wherever it stands now, else the first of the flow.
 * @param filled vessels with a charge in use
 */
export function firstToFill(
  vessels: readonly Vessel[],
  filled: ReadonlySet<Id>,
  beds: readonly BedAssessment[] | undefined,
): Vessel | undefined {
  const spent = ASKS.flatMap((asks) => (beds ?? []).filter(asks).map(({ vesselId }) => vesselId))[0];
  return vessels.find(({ id }) => !filled.has(id)) ?? vessels.find(({ id }) => id === spent) ?? vessels[0];
}
