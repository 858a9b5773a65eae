import type { DemandItem, Tool, Use, WaterQuality } from "@winter-bead/core";

/** Figures of one kind of work in internal units, as it is offered. */
export interface WorkPreset {
  readonly by: DemandItem["by"];
  readonly name: string;
  readonly quality: WaterQuality;
  /** L, L/min, min, %, or a count, by the field's name. */
  readonly figures: Readonly<Record<string, number>>;
}

interface UsePreset {
  readonly work: readonly WorkPreset[];
  /** How many of them stand there at first. */
  readonly first: number;
  readonly peakFlow: number;
  readonly limit: number;
  readonly tool: Tool;
  readonly jobName: string;
  /** Glass and paint go by the meter, an aquarium by the first leak. */
  readonly until: "leak" | "meter";
}

const jobs = (name: string, perWeek: number, litresEach: number): WorkPreset => ({
  by: "jobs",
  name,
  quality: "guessed",
  figures: { perWeek, litresEach },
});
const total = (name: string, litresPerWeek: number): WorkPreset => ({
  by: "total",
  name,
  quality: "metered",
  figures: { litresPerWeek },
});

/** What each use starts with: planning assumptions, all of them the user's to change. */
export const USE_PRESETS: Readonly<Record<Use, UsePreset>> = {
  glass: {
    work: [
      jobs("maintenance cleans", 20, 60),
      jobs("first cleans", 2, 110),
      jobs("water-repellent glass", 2, 90),
      { by: "rinse", name: "minutes at the brush", quality: "timed", figures: { perWeek: 20, minutes: 20, flow: 3 } },
      total("a meter’s total", 1300),
    ],
    first: 2,
    peakFlow: 3,
    limit: 10,
    tool: "brush",
    jobName: "house",
    until: "meter",
  },
  paint: {
    work: [
      { by: "rinse", name: "rinses", quality: "timed", figures: { perWeek: 15, minutes: 8, flow: 5 } },
      jobs("cars", 15, 40),
      total("a meter’s total", 600),
    ],
    first: 1,
    peakFlow: 5,
    limit: 10,
    tool: "lance",
    jobName: "car",
    until: "meter",
  },
  aquarium: {
    work: [
      {
        by: "tank",
        name: "tanks",
        quality: "timed",
        figures: { volume: 400, changeShare: 0.2, changesPerWeek: 1, evaporation: 3 },
      },
      total("a meter’s total", 150),
    ],
    first: 1,
    peakFlow: 0.3,
    limit: 1,
    tool: "aquarium",
    jobName: "water change",
    until: "leak",
  },
};

/** Months as shares of the usual week, January first. */
export const SEASONS = {
  even: Array<number>(12).fill(1),
  summer: [0.6, 0.6, 0.9, 1.1, 1.3, 1.4, 1.4, 1.3, 1.1, 0.9, 0.7, 0.7],
  "spring-autumn": [0.7, 0.8, 1.2, 1.4, 1.2, 0.9, 0.8, 0.9, 1.2, 1.3, 0.9, 0.7],
} as const satisfies Record<string, readonly number[]>;
