import {
  membraneState,
  onScale,
  temperatureCorrection,
  unwrap,
  type FeedTest,
  type MembraneCheck,
  type ReportValues,
  type WaterReport,
} from "@winter-bead/core";
import { Chance } from "./chance";
import { METERS, TAPS } from "./places";
import { seasonal } from "./story";

const DAY = 86_400_000;
const HOUR = 3_600_000;

/** How long back a crew tested a tap, and how often. */
const TESTED = [
  { tap: "Yard tap", days: 400, every: 17, meter: "pocket" },
  { tap: "Row tap", days: 60, every: 19, meter: "pocket" },
  { tap: "Blending tap", days: 420, every: 21, meter: "inline" },
] as const;

const REPORTS: readonly {
  readonly tap: string;
  readonly daysAgo: number;
  readonly origin: string;
  readonly source: WaterReport["source"];
  readonly values: ReportValues;
}[] = [
  {
    tap: "Bay tap",
    daysAgo: 70,
    origin: "Kiln Hill zone, blended wells",
    source: "supplier",
    values: {
      ca: 39.4,
      mg: 8.1,
      na: 15.2,
      k: 2.1,
      cl: 22.4,
      so4: 21.6,
      no3: 8.4,
      f: 0.3,
      alkalinity: 118,
      ph: 7.3,
      silica: 6.2,
      ec25: 341,
      temperature: 14,
    },
  },
  {
    tap: "Blending tap",
    daysAgo: 41,
    origin: "Own tests behind the blending tank, which is aerated",
    source: "typed",
    values: {
      ca: 46.2,
      mg: 10.3,
      na: 22.9,
      k: 2.6,
      nh4: 0.45,
      cl: 31.1,
      so4: 30.4,
      no3: 6.3,
      alkalinity: 140,
      ph: 8.1,
      silica: 7,
      chloramine: 1.6,
      ec25: 423,
      temperature: 18,
    },
  },
];

export interface WaterIds {
  readonly tapIds: ReadonlyMap<string, string>;
  readonly meterIds: Readonly<Record<keyof typeof METERS, string>>;
  /** The rig with the membrane. */
  readonly rigId: string;
}

/** Feed readings over the seasons. */
export function tellFeedTests({ tapIds, meterIds }: WaterIds, seed: number, now: number): FeedTest[] {
  const chance = new Chance(seed);
  return TESTED.flatMap(({ tap, days, every, meter }) => {
    const { season } = TAPS.find((each) => each.tap.name === tap)!;
    const { scale, resolution } = METERS[meter];
    return Array.from({ length: Math.floor(days / every) }, (_, i): FeedTest => {
      const at = now - (days - i * every) * DAY + chance.whole(0, 9) * HOUR;
      const ec25 = chance.normal(seasonal(season, at), season.scatter);
      return {
        id: chance.id(at),
        tapId: tapIds.get(tap)!,
        at: new Date(at).toISOString(),
        meterId: meterIds[meter],
        value: Math.max(resolution, Math.round(onScale(ec25, scale) / resolution) * resolution),
        temperature: Math.round(chance.between(9, 17)),
      };
    });
  });
}

export const tellReports = ({ tapIds }: WaterIds, seed: number, now: number): WaterReport[] => {
  const chance = new Chance(seed);
  return REPORTS.map(({ tap, daysAgo, origin, source, values }) => ({
    id: chance.id(now - daysAgo * DAY),
    tapId: tapIds.get(tap)!,
    sampledOn: new Date(now - daysAgo * DAY).toISOString().slice(0, 10),
    source,
    origin,
    values,
  }));
};

const CHECKS = 8;
const CHECK_EVERY = 21;
const CLEAN_FLOW = 0.118;
const FEED_PRESSURE = 410;

/** A membrane that lost its flow slowly while its sediment cartridge clogged. */
export function tellMembraneChecks({ rigId, meterIds }: WaterIds, seed: number, now: number): MembraneCheck[] {
  const chance = new Chance(seed);
  const season = TAPS.find((each) => each.tap.name === "Blending tap")!.season;
  const clean = unwrap(
    membraneState({
      feedEc25: season.mean,
      productEc25: 13,
      temperature: 18,
      pressure: FEED_PRESSURE,
      productFlow: CLEAN_FLOW,
      wasteFlow: 3 * CLEAN_FLOW,
    }),
  );
  return Array.from({ length: CHECKS }, (_, i): MembraneCheck => {
    const at = now - ((CHECKS - 1 - i) * CHECK_EVERY + 3) * DAY + 2 * HOUR;
    const wear = i / (CHECKS - 1);
    const temperature = Math.round(chance.between(15, 19));
    const pressure = Math.round(FEED_PRESSURE - 28 * wear + chance.normal(0, 4));
    const feed = Math.round(seasonal(season, at));
    const net = clean.netPressure + (pressure - FEED_PRESSURE);
    const flow = clean.normalizedFlow * temperatureCorrection(temperature) * net * (1 - 0.13 * wear);
    const productFlow = Number((flow * (1 + chance.normal(0, 0.008))).toFixed(4));
    return {
      id: chance.id(at),
      rigId,
      at: new Date(at).toISOString(),
      meterId: meterIds.inline,
      feed,
      product: Number((feed * 0.031 * (1 + 0.22 * wear) + chance.normal(0, 0.2)).toFixed(1)),
      temperature,
      pressure,
      productFlow,
      wasteFlow: Number((3 * productFlow).toFixed(4)),
      clean: i === 0,
      ...(i === CHECKS - 1 ? { seen: { "sediment-old": true, "chlorine-behind-carbon": false } } : {}),
    };
  });
}
