import type { Marks, Use } from "../vessel/marks";
import { MARKS } from "../vessel/marks";

/** What a newcomer does for a living, or at home. */
export type Trade = "windows" | "cars" | "own-car" | "aquarium" | "other";

/** What the water dries on, or lives in: it asks for a limit. */
export interface Surface {
  readonly name: string;
  readonly marks: Marks;
}

/** Half the usual limit, where a drop dries before it runs off: a planning assumption. */
const QUICK_TO_DRY: Marks = { watch: 3, limit: 5, hard: 10, scale: "nacl" };

/** Sound beginnings of one trade: planning assumptions, all of them the user's to change. */
export interface TradeDefaults {
  readonly name: string;
  readonly use: Use;
  readonly rigName: string;
  readonly siteName: string;
  readonly tapName: string;
  readonly jobName: string;
  readonly litresPerJob: number;
  readonly jobsPerWeek: number;
  /** L inside of the vessel that is usual. */
  readonly grossVolume: number;
  /** L/min of what the water comes out of; absent where the vessel says it. */
  readonly toolFlow?: number;
  readonly behindMembrane: boolean;
  /** The first is the usual one. */
  readonly surfaces: readonly [Surface, ...Surface[]];
}

const PAINT: TradeDefaults["surfaces"] = [
  { name: "Paint in the shade", marks: MARKS["glass-10"] },
  { name: "Dark or warm paint, sun", marks: QUICK_TO_DRY },
  { name: "Wiped dry afterwards", marks: MARKS["glass-20"] },
];
const GLASS: TradeDefaults["surfaces"] = [
  { name: "Glass", marks: MARKS["glass-10"] },
  { name: "Hot glass, dark frames", marks: QUICK_TO_DRY },
  { name: "Glass, rinsed long", marks: MARKS["glass-20"] },
];

export const TRADES: Readonly<Record<Trade, TradeDefaults>> = {
  windows: {
    ...{ name: "Windows", use: "glass", rigName: "Van", siteName: "Yard", tapName: "Yard tap", jobName: "house" },
    ...{ litresPerJob: 60, jobsPerWeek: 20, grossVolume: 28, behindMembrane: false, surfaces: GLASS },
  },
  cars: {
    ...{ name: "Cars, in a bay", use: "paint", rigName: "Bay", siteName: "Bay", tapName: "Bay tap", jobName: "car" },
    ...{ litresPerJob: 40, jobsPerWeek: 15, grossVolume: 14, toolFlow: 5, behindMembrane: false, surfaces: PAINT },
  },
  "own-car": {
    ...{ name: "My own car", use: "paint", rigName: "My car", siteName: "Home", tapName: "Garden tap", jobName: "car" },
    ...{ litresPerJob: 40, jobsPerWeek: 1, grossVolume: 7.5, toolFlow: 5, behindMembrane: false, surfaces: PAINT },
  },
  aquarium: {
    ...{
      name: "Aquarium",
      use: "aquarium",
      rigName: "Tank",
      siteName: "Home",
      tapName: "Tap",
      jobName: "water change",
    },
    ...{ litresPerJob: 45, jobsPerWeek: 2, grossVolume: 1.5, behindMembrane: true },
    surfaces: [
      { name: "Corals and shrimps", marks: MARKS["aquarium-1"] },
      { name: "Fish and plants", marks: MARKS["aquarium-2"] },
    ],
  },
  other: {
    ...{ name: "Something else", use: "glass", rigName: "Rig", siteName: "Home", tapName: "Tap", jobName: "job" },
    ...{ litresPerJob: 50, jobsPerWeek: 5, grossVolume: 14, behindMembrane: false },
    surfaces: [{ name: "Something that shows spots", marks: MARKS["glass-10"] }, GLASS[1]!, PAINT[2]!],
  },
};
