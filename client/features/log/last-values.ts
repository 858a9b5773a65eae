import { type Id, type Meter, type ReadingPoint, type Visit, type VisitWater } from "@winter-bead/core";
import { inUse } from "../../data/in-use";

export interface LastReading {
  readonly value: number;
  readonly at: number;
  readonly meterId?: Id | undefined;
}

/** Which reading is meant: at a point, behind a stage where the train has several, at a tap. */
interface Asked {
  readonly tapId?: Id | undefined;
  readonly stageId?: Id | undefined;
}

/** The newest reading at a point of the train. */
export function lastReading(
  visits: readonly Visit[],
  point: ReadingPoint,
  { tapId, stageId }: Asked = {},
): LastReading | undefined {
  for (let i = visits.length - 1; i >= 0; i -= 1) {
    const visit = visits[i]!;
    if (tapId !== undefined && visit.tapId !== tapId) continue;
    const reading = visit.readings.find(
      (each) => each.point === point && (stageId === undefined || each.stageId === stageId),
    );
    if (reading) return { value: reading.value, at: Date.parse(visit.at), meterId: reading.meterId };
  }
  return undefined;
}

/** The newest way in which water was logged, and the newest meter total. */
export function lastWater(
  visits: readonly Visit[],
  startTotal: number | undefined,
): { readonly water: VisitWater | undefined; readonly total: number | undefined } {
  const water = [...visits].reverse().find((visit) => visit.water)?.water;
  const total = [...visits]
    .reverse()
    .map((visit) => visit.water)
    .find((each) => each?.by === "total");
  return { water, total: total?.by === "total" ? total.total : startTotal };
}

/**
 * The meter used last on this rig; retired, or where none was used yet, the crew's only other one.
 * @returns nothing where there are several to choose from: then it is asked
 */
export function usualMeter(visits: readonly Visit[], meters: readonly Meter[]): Id | undefined {
  const here = inUse(meters);
  const used = lastReading(visits, "output")?.meterId ?? lastReading(visits, "feed")?.meterId;
  if (here.some(({ id }) => id === used)) return used;
  return here.length === 1 ? here[0]!.id : undefined;
}
