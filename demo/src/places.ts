import { MARKS, stageIdAt, type Marks, type Rig, type Stage, type Tap, type Use, type Vessel } from "@winter-bead/core";
import type { TrueCharge } from "./resin-truth";

/** How a tap's water changes over the year, µS/cm. */
export interface FeedSeason {
  readonly mean: number;
  /** Half the difference between the best and the worst month. */
  readonly swing: number;
  /** Day of the year with the hardest water. */
  readonly peakDay: number;
  /** Day-to-day scatter. */
  readonly scatter: number;
}

/** One working day of a rig. */
export interface WorkDay {
  readonly hour: number;
  /** Chance of working on Monday, ... Sunday. */
  readonly week: readonly number[];
  readonly jobs: readonly [number, number];
  readonly litresPerJob: readonly [number, number];
}

export interface DemoRig {
  readonly rig: Omit<Rig, "id" | "tapId" | "stages">;
  readonly before: readonly Stage[];
  readonly vessel: Omit<Vessel, "id">;
  readonly charge: Omit<TrueCharge, "diameter" | "flow"> & {
    readonly packing: "settled" | "poured" | "loose-cartridge";
  };
  readonly work: WorkDay;
  readonly water: "total" | "timed" | "jobs";
  /** Output, ppm on the meter's scale, at which this crew changes the resin. */
  readonly changesAt: number;
  /** A second vessel like it stands behind: the first is emptied once so much leaves it, ppm, and goes to the end. */
  readonly lag?: { readonly name: string; readonly rotatesAt: number };
  /** Output of today, ppm, or `early` in a charge. */
  readonly today: number | "early";
  readonly meter: "pocket" | "bench" | "inline";
  readonly taps: readonly { readonly name: string; readonly chance: number }[];
  /** Carbon dioxide beside the load a meter sees. */
  readonly hiddenShare: number;
}

export interface DemoTap {
  readonly site: string;
  readonly tap: Omit<Tap, "id" | "siteId">;
  readonly season: FeedSeason;
}

/** Vellin Quay is invented, and so is everybody in it. */
export const SITES = [
  { name: "Ropewalk yard", note: "The van's own tap, beside the workshop door." },
  { name: "Saltmarsh Row", note: "Outside tap by number 9; run it two minutes, it stands in the sun." },
  { name: "Kilnside bay", note: "Detailing bay behind the old kiln." },
  { name: "Heron House fish room", note: "Quarantine room, water from the blending tank." },
];

export const TAPS: readonly DemoTap[] = [
  {
    site: "Ropewalk yard",
    tap: { name: "Yard tap", low: 78, typical: 96, high: 124, scale: "nacl", temperature: 12 },
    season: { mean: 192, swing: 34, peakDay: 215, scatter: 7 },
  },
  {
    site: "Saltmarsh Row",
    tap: { name: "Row tap", low: 118, typical: 141, high: 170, scale: "nacl", temperature: 13 },
    season: { mean: 283, swing: 30, peakDay: 230, scatter: 11 },
  },
  {
    site: "Kilnside bay",
    tap: {
      name: "Bay tap",
      low: 150,
      typical: 168,
      high: 192,
      scale: "nacl",
      temperature: 14,
      ph: 7.3,
      alkalinity: 118,
    },
    season: { mean: 338, swing: 22, peakDay: 200, scatter: 8 },
  },
  {
    site: "Heron House fish room",
    tap: {
      name: "Blending tap",
      low: 190,
      typical: 214,
      high: 246,
      scale: "nacl",
      temperature: 18,
      ph: 8.1,
      alkalinity: 140,
      silica: 7,
    },
    season: { mean: 426, swing: 28, peakDay: 240, scatter: 10 },
  },
];

export const METERS = {
  pocket: { name: "Pocket meter, van", scale: "nacl" as const, compensated: true, resolution: 1, shownInStandard: 712 },
  bench: { name: "Bay meter", scale: "442" as const, compensated: true, resolution: 1, shownInStandard: 1033 },
  inline: { name: "Fish room inline", scale: "ec" as const, compensated: true, resolution: 0.1, shownInStandard: 1416 },
};

const mark = (name: keyof typeof MARKS): Marks => MARKS[name];
const rig = (name: string, use: Use, flow: number, jobName: string, litresPerJob: number) => ({
  name,
  use,
  flow,
  jobName,
  litresPerJob,
});

export const RIGS: readonly DemoRig[] = [
  {
    rig: rig("Van", "glass", 3.2, "house", 58),
    before: [{ id: stageIdAt(0), kind: "sediment", microns: 20 }],
    vessel: {
      name: "Van tank",
      kind: "screw-head-tank",
      grossVolume: 28,
      diameter: 254,
      emptyWeight: 7.5,
      fillFraction: 0.86,
      marks: mark("glass-10"),
    },
    charge: { grade: "virgin", resinLitres: 24, packing: "settled" },
    work: { hour: 8, week: [0.95, 0.95, 0.9, 0.95, 0.8, 0.15, 0], jobs: [3, 6], litresPerJob: [44, 74] },
    water: "total",
    changesAt: 11,
    today: "early",
    meter: "pocket",
    taps: [
      { name: "Yard tap", chance: 0.75 },
      { name: "Row tap", chance: 0.25 },
    ],
    hiddenShare: 0.05,
  },
  {
    rig: rig("Bay 2", "paint", 4.6, "car", 38),
    before: [
      { id: stageIdAt(0), kind: "sediment", microns: 5 },
      { id: stageIdAt(1), kind: "carbon", microns: 5 },
    ],
    vessel: {
      name: "Bay bottle",
      kind: "inner-seal-bottle",
      grossVolume: 14,
      diameter: 180,
      emptyWeight: 5.2,
      fillFraction: 0.85,
      marks: mark("glass-10"),
    },
    charge: { grade: "dyed", resinLitres: 11.5, packing: "settled" },
    work: { hour: 9, week: [0.85, 0.9, 0.9, 0.9, 0.95, 0.7, 0], jobs: [2, 4], litresPerJob: [30, 46] },
    water: "timed",
    changesAt: 15,
    today: 12.6,
    meter: "bench",
    taps: [{ name: "Bay tap", chance: 1 }],
    hiddenShare: 0,
  },
  {
    rig: rig("Quarantine", "aquarium", 0.24, "water change", 46),
    before: [
      { id: stageIdAt(0), kind: "sediment", microns: 5 },
      { id: stageIdAt(1), kind: "carbon", microns: 5, chlorineGrams: 40 },
      { id: stageIdAt(2), kind: "membrane", rejection: 0.968 },
    ],
    vessel: {
      name: "Cartridge A",
      kind: "cartridge",
      grossVolume: 1.5,
      diameter: 66,
      emptyWeight: 0.8,
      fillFraction: 1,
      marks: mark("aquarium-1"),
    },
    charge: { grade: "virgin", resinLitres: 1.4, packing: "settled" },
    lag: { name: "Cartridge B", rotatesAt: 1 },
    work: { hour: 10, week: [0.9, 0.2, 0.8, 0.2, 0.9, 0.5, 0.1], jobs: [1, 2], litresPerJob: [38, 56] },
    water: "total",
    changesAt: 1,
    today: "early",
    meter: "inline",
    taps: [{ name: "Blending tap", chance: 1 }],
    hiddenShare: 0,
  },
];
