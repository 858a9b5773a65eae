import {
  MARKS,
  type Arrangement,
  type Charge,
  type Id,
  type Marks,
  type Place,
  type Plan,
  type Reading,
  type Rig,
  type Stage,
  type Use,
  type Vessel,
} from "@winter-bead/core";
import { hasMembrane, isAerated, vesselsIn } from "@winter-bead/core/src/sizing";

/** Records that a plan becomes, with the ids they get. */
export interface Built {
  /** Vessels that are new; one the crew has is used as it is. */
  readonly vessels: readonly Vessel[];
  readonly rig: Rig;
  readonly arrangement: Arrangement;
  readonly charges: readonly Charge[];
}

/** Marks around a limit: one of the schools' where it fits, else watch at six tenths and hard at twice. */
export function marksFor({ value: limit, scale }: Reading, use: Use): Marks {
  const names = use === "aquarium" ? (["aquarium-1", "aquarium-2"] as const) : (["glass-10", "glass-20"] as const);
  const school = names
    .map((name) => MARKS[name] as Marks)
    .find((marks) => marks.limit === limit && marks.scale === scale);
  if (school) return school;
  const WATCH = 0.6;
  return {
    watch: WATCH * limit,
    limit,
    hard: 2 * limit,
    scale,
    ...(use === "aquarium" ? { capacityUsed: 0.9 } : {}),
  };
}

/** Litres of one job, for the rig's own count: the mean over the kinds of work that are jobs. */
function litresPerJob({ work, expected }: Plan): number {
  const jobs = work.demand.items.reduce(
    (sum, item) => sum + (item.by === "jobs" || item.by === "rinse" ? item.perWeek : 0),
    0,
  );
  if (jobs > 0) return expected.week.typical / jobs;
  const changes = work.demand.items.reduce((sum, item) => sum + (item.by === "tank" ? item.changesPerWeek : 0), 0);
  return changes > 0 ? expected.week.typical / changes : Math.max(1, expected.week.typical / 7);
}

/** What stands before the resin, as stages of a rig. */
function stagesBefore({ option, work }: Plan, newId: () => Id): Stage[] {
  const rejection = work.before?.rated?.rejection ?? 0.965;
  const membranes = work.before?.secondMembrane === true ? 2 : 1;
  return [
    ...(hasMembrane(option.before)
      ? [
          { id: newId(), kind: "sediment" } as const,
          { id: newId(), kind: "carbon" } as const,
          ...Array.from({ length: membranes }, () => ({ id: newId(), kind: "membrane" as const, rejection })),
        ]
      : []),
    ...(isAerated(option.before) ? [{ id: newId(), kind: "degasser" } as const] : []),
  ];
}

const WORD = ["", " 2"] as const;

/**
 * The rig, its vessels and their first charges, as a plan has them. Two side by side become one vessel of twice the volume
 * and the same depth, which is what they are to the water.
 *
 * @param own the crew's free vessel that the plan counts on; it is used, not made again
 */
export function buildRig(plan: Plan, newId: () => Id, now: Date, own?: Vessel): Built {
  const { option, name, use, tapId, jobName, expected, work } = plan;
  const { vessel: size, train, grade } = option;
  const together = train === "twin";
  const times = together ? 2 : 1;
  const made = (i: number): Vessel => ({
    id: newId(),
    name: together ? `${size.name}, both` : `${size.name}${WORD[i]!}`,
    kind: size.kind,
    grossVolume: times * size.grossVolume,
    diameter: Math.sqrt(times) * size.diameter,
    emptyWeight: times * size.emptyWeight,
    fillFraction: size.fillFraction,
    marks: marksFor(work.limit, use),
  });
  const used = own && !together ? [own] : [];
  const count = together ? 1 : vesselsIn(option);
  const vessels = Array.from({ length: count - used.length }, (_, i) => made(i + used.length));
  const all = [...used, ...vessels];
  const places = all.map(({ id }): Place => ({ stageId: newId(), vesselId: id }));
  const perJob = litresPerJob(plan);
  const rig: Rig = {
    id: newId(),
    name,
    use,
    tapId,
    flow: expected.flow * times,
    stages: [...stagesBefore(plan, newId), ...places.map(({ stageId }): Stage => ({ id: stageId, kind: "resin" }))],
    jobName,
    litresPerJob: perJob,
    jobsPerWeek: expected.week.typical / perJob,
  };
  const charges = all.map((vessel): Charge => ({
    id: newId(),
    vesselId: vessel.id,
    rigId: rig.id,
    grade,
    resinLitres: vessel.grossVolume * vessel.fillFraction,
    packing: "settled",
    filledAt: now.toISOString(),
  }));
  const at = now.toISOString();
  return { vessels, rig, arrangement: { id: newId(), rigId: rig.id, at, did: "hung-in", places }, charges };
}
