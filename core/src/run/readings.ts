import { USUAL_RECOVERY } from "../membrane/membrane";
import type { Id } from "../descriptor/identity";
import type { Tap } from "../feed/tap.record";
import type { Rig } from "../rig/rig.record";
import type { ReadingPoint, ReadingRecord } from "../rig/visit.record";
import type { Meter } from "../water/meter.record";
import { conductivityAt25, scaleFactor, type Scale } from "../water/meter";

/** Conductivity of a kept reading by its meter's present scale, µS/cm at 25 °C; undefined when it can't be told. */
export function recordedEc25(
  reading: Pick<ReadingRecord, "meterId" | "scale" | "value" | "temperature">,
  meters: ReadonlyMap<Id, Meter>,
): number | undefined {
  const meter = reading.meterId === undefined ? undefined : meters.get(reading.meterId);
  const scale = reading.scale ?? meter?.scale;
  if (scale === undefined) return undefined;
  const compensated = meter?.compensated ?? true;
  const offset = scale === meter?.scale ? (meter.offset ?? 0) : 0;
  const ec25 = conductivityAt25({
    value: Math.max(0, reading.value - offset),
    scale,
    ...(reading.temperature === undefined ? {} : { temperature: reading.temperature }),
    ...(compensated || reading.temperature === undefined ? {} : { compensated: false }),
  });
  return ec25.ok ? ec25.value : undefined;
}

/** Digits behind the point of a value as it was typed. @example decimalsOf(0.35) // 2 */
const decimalsOf = (value: number) => (String(value).split(".")[1] ?? "").length;

/**
 * The finest step that a meter was seen to show, on its own scale: 1 where it never showed a decimal.
 * @example stepOf([0, 12, 3.5]) // 0.1
 */
export const stepOf = (values: readonly number[]): number => 10 ** -Math.max(0, ...values.map(decimalsOf));

/** The scale a reading was seen on. */
export const scaleOf = (reading: Pick<ReadingRecord, "meterId" | "scale">, meters: ReadonlyMap<Id, Meter>): Scale =>
  reading.scale ?? (reading.meterId === undefined ? undefined : meters.get(reading.meterId)?.scale) ?? "nacl";

/** The point whose reading is what the resin gets: behind the membrane when there is one. */
export const resinFeedPoint = (rig: Rig): ReadingPoint =>
  rig.stages.some((stage) => stage.kind === "membrane") ? "after-membrane" : "feed";

/**
 * Share of the tap's ions that reach the resin when nobody read behind the membrane. Product through a second membrane
 * multiplies; one on what the first wastes, `EC_c = EC (1 - Y (1 - R))/(1 - Y)`, makes more water that mixes with the
 * first one's.
 *
 * @example passage(rigWith95) // 0.05
 */
export function passage({ stages }: Pick<Rig, "stages">): number {
  const Y = USUAL_RECOVERY;
  let [share, made] = [1, 0];
  /** Salt and water that the last membrane wastes, beside the tap's. */
  let waste = { salt: 1, water: 1 };
  for (const stage of stages) {
    if (stage.kind !== "membrane") continue;
    const passed = 1 - stage.rejection;
    const onWaste = stage.fedBy === "reject" && made > 0;
    const fed = onWaste ? waste : { salt: share, water: made > 0 ? made : 1 };
    const product = Y * fed.water;
    const own = passed * fed.salt;
    share = onWaste ? (share * made + own * product) / (made + product) : own;
    made = onWaste ? made + product : product;
    waste = { salt: (fed.salt - Y * own) / (1 - Y), water: fed.water - product };
  }
  return share;
}

/** The tap's stated range as it reaches the resin, µS/cm. */
export function statedFeed(rig: Rig, tap: Tap) {
  const toResin = (value: number) => (value / scaleFactor(tap.scale)) * passage(rig);
  return { low: toResin(tap.low), typical: toResin(tap.typical), high: toResin(tap.high) };
}

/** Milliseconds since 1970. */
export const time = (instant: string) => Date.parse(instant);
