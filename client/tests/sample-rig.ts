import {
  MARKS,
  type Charge,
  type Meter,
  type Rig,
  type Tap,
  type Use,
  type Vessel,
  type Visit,
} from "@winter-bead/core";
import type { RigFacts } from "../features/rack/assess";

export const START = Date.UTC(2027, 2, 1, 8);
export const DAY = 86_400_000;
const iso = (milliseconds: number) => new Date(milliseconds).toISOString();

export const tap: Tap = {
  id: "tap",
  siteId: "site",
  name: "Bay tap",
  low: 150,
  typical: 160,
  high: 175,
  scale: "nacl",
};
export const meter: Meter = { id: "meter", name: "Pocket", scale: "nacl", compensated: true };

export const vessel: Vessel = {
  id: "vessel",
  name: "Bottle",
  kind: "inner-seal-bottle",
  grossVolume: 14,
  diameter: 180,
  emptyWeight: 5.2,
  fillFraction: 0.85,
  marks: MARKS["glass-10"],
};

export const rig: Rig = {
  id: "rig",
  name: "Bay",
  use: "paint",
  tapId: "tap",
  flow: 3.2,
  stages: [{ id: "stage", kind: "resin" }],
  jobName: "car",
  litresPerJob: 40,
};

export const charge: Charge = {
  id: "charge",
  vesselId: "vessel",
  rigId: "rig",
  grade: "virgin",
  resinLitres: 11.5,
  packing: "settled",
  filledAt: iso(START - DAY),
  startTotal: 0,
};

/** One vessel that hangs in a rig since ever. */
export const aloneIn = (of: Rig, hung: Vessel): Pick<RigFacts, "train" | "elsewhere"> => ({
  train: {
    rigs: [of],
    vessels: [hung],
    arrangements: [
      {
        ...{ id: `hung-${of.id}`, rigId: of.id, at: iso(START - 9 * DAY) },
        places: [{ stageId: of.stages[of.stages.length - 1]!.id, vesselId: hung.id }],
      },
    ],
  },
  elsewhere: { visits: [], charges: [] },
});

/** A rig whose output was read once a day, 100 litres each day. */
export function rigWith(outputs: readonly number[], use: Use = "paint"): RigFacts {
  const visits = outputs.map((value, i): Visit => ({
    id: `visit${i}`,
    rigId: "rig",
    tapId: "tap",
    at: iso(START + i * DAY),
    water: { by: "total", total: (i + 1) * 100 },
    readings: [
      { id: `out${i}`, point: "output", value, meterId: "meter" },
      { id: `feed${i}`, point: "feed", value: 160, meterId: "meter" },
    ],
  }));
  const marks = use === "aquarium" ? MARKS["aquarium-1"] : MARKS["glass-10"];
  const own = { rig: { ...rig, use }, vessel: { ...vessel, marks } };
  return {
    ...own,
    ...aloneIn(own.rig, own.vessel),
    taps: [tap],
    meters: [meter],
    visits,
    charges: [charge],
    feedTests: [],
    reports: [],
    now: START + outputs.length * DAY,
  };
}

export const clean = (count: number) => Array<number>(count).fill(0);
