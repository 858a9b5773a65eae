import { flowPaths, meanBreakthrough, onScale, type Scale, type Standing } from "@winter-bead/core";

export interface FrontPoint {
  readonly litres: number;
  readonly early: number;
  readonly likely: number;
  readonly late: number;
}

const POINTS = 90;
/** Width of the front drawn: the prior's median. */
const DRAWN_WIDTH = 0.06;

/** Output over litres as the belief about the capacity has it, ppm on a scale: early, likely and late front. */
export function predictedFront(where: Standing, scale: Scale, untilLitres: number): readonly FrontPoint[] {
  const { used, charge, condition, capacity, feed, bed, floor } = where;
  const loadSoFar = used.litres > 0 ? used.meq / used.litres : feed.typical / 100;
  const meqAt = (litres: number) =>
    litres <= used.litres ? litres * loadSoFar : used.meq + ((litres - used.litres) * feed.typical) / 100;
  const paths = flowPaths(DRAWN_WIDTH);
  const output = (litres: number, eqPerLitre: number) => {
    const throughput = meqAt(litres) / (1000 * eqPerLitre * charge.resinLitres * condition);
    return onScale(floor + (feed.typical - floor) * meanBreakthrough(throughput, bed.transferUnits, paths), scale);
  };
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const litres = (untilLitres * i) / POINTS;
    return {
      litres,
      early: output(litres, capacity.low),
      likely: output(litres, capacity.median),
      late: output(litres, capacity.high),
    };
  });
}
