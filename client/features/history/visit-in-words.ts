import type { Meter, Visit } from "@winter-bead/core";
import { litres, scaleUnit, threeDigits, type Units } from "../../ui/format";

const POINTS = { feed: "feed", "after-carbon": "after carbon", "after-membrane": "after RO", output: "out" } as const;

function waterInWords(water: Visit["water"], units: Units): readonly string[] {
  if (!water) return [];
  if (water.by === "total") return [`meter at ${litres(water.total, units)}`];
  if (water.by === "timed") return [litres(water.minutes * water.flow, units)];
  return [litres(water.jobs * water.litresPerJob, units)];
}

/** What was seen at a visit, where no charge counts it. @example visitInWords(visit, meters, "metric") // "feed 161 ppm ×0.64, out 0 ppm NaCl, meter at 1,230 L" */
export function visitInWords({ readings, water, note }: Visit, meters: readonly Meter[], units: Units): string {
  const read = readings.map(({ point, value, scale, meterId }) => {
    const on = scale ?? meters.find(({ id }) => id === meterId)?.scale ?? "nacl";
    return `${POINTS[point]} ${threeDigits(value)} ${scaleUnit(on)}`;
  });
  return [...read, ...waterInWords(water, units), ...(note ? [note] : [])].join(", ");
}
