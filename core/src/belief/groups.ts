import { median } from "../numerics/quantile";

/** One output reading as it is weighed. */
export interface WeighedReading {
  /** Litres treated by the charge when it was taken. */
  readonly litres: number;
  /** Meter-visible load on the resin by then, meq. */
  readonly meq: number;
  /** µS/cm at 25 °C. */
  readonly ec25: number;
  readonly feedEc25: number;
  /** µS/cm of one ppm on the reading's scale. */
  readonly ppm: number;
}

/** Readings within one bed volume: however often the probe is dipped, they say one thing. */
export interface ReadingGroup {
  /** Litres at its first reading, and at its last. */
  readonly from: number;
  readonly litres: number;
  readonly meq: number;
  /** Their median. */
  readonly ec25: number;
  readonly feedEc25: number;
  readonly ppm: number;
  readonly count: number;
}

/**
 * Output readings by groups of one bed volume, counted from each group's first; a group stands at its last reading.
 *
 * @param readings oldest first
 * @param bedVolume litres of resin
 * @example groupsOf(nineDipsAtOneTotal, 11.5).length // 1
 */
export function groupsOf(readings: readonly WeighedReading[], bedVolume: number): readonly ReadingGroup[] {
  const groups: WeighedReading[][] = [];
  for (const reading of readings) {
    const group = groups[groups.length - 1];
    if (group && reading.litres - group[0]!.litres <= bedVolume) group.push(reading);
    else groups.push([reading]);
  }
  return groups.map((group) => {
    const { litres, meq, feedEc25, ppm } = group[group.length - 1]!;
    const ec25 = median(group.map((reading) => reading.ec25));
    return { from: group[0]!.litres, litres, meq, ec25, feedEc25, ppm, count: group.length };
  });
}
