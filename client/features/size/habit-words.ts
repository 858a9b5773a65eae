import type { Habit, HabitName, Practice } from "@winter-bead/core";
import { shown, threeDigits, type Units } from "../../ui/format";

/** What each habit is called, as something to do. */
export const HABIT_WORDS: Readonly<Record<HabitName, string>> = {
  "shut-off": "Shut off at every pause",
  "lower-flow": "Turn the flow down",
  "tap-wash": "Wash on tap water, pure water for the rinse",
  "divert-start": "Divert the start of the membrane",
  "long-runs": "Few long runs in place of many short ones",
  "better-tap": "Fill at the better tap",
  packing: "Pack the beads full and settled",
  upright: "Strap the vessel upright",
  "sealed-storage": "Store resin sealed in foil",
  aeration: "Aerate a barrel first",
  membrane: "Put RO before the resin",
  "lead-lag": "Two in series, the lag moves up",
};

/** What the figure rests on, for one habit. */
export function habitBasis(habit: Habit, practice: Practice, units: Units, otherTap: string | undefined): string {
  const percent = (share: number) => `${threeDigits(100 * share)} %`;
  const flow = shown("flow", practice.lowerFlow, units);
  const words: Readonly<Record<HabitName, string>> = {
    "shut-off": `${percent(practice.pauseShare)} of the running time nobody uses it`,
    "lower-flow": `down to ${flow.text} ${flow.unit}, for the same time`,
    "tap-wash": `${percent(practice.washShare)} of the water only washes`,
    "divert-start": `to drain for ${threeDigits(habit.divertSeconds ?? 0)} s at each of ${threeDigits(practice.startsPerWeek)} starts a week`,
    "long-runs": `half of ${threeDigits(practice.startsPerWeek)} starts a week`,
    "better-tap": otherTap ? `at ${otherTap}` : "at another tap",
    packing: `${practice.packing === "poured" ? "poured only" : "loose"} beads reach less of their capacity`,
    upright: habit.outOfReachNow
      ? `${percent(practice.leaningBypass)} past the beads alone is above your limit: on its side it gives nothing`
      : `${percent(practice.leaningBypass)} of the water past the beads, on its side. Where it must lie, fill it so full that no gap is left: the gap is what costs this`,
    "sealed-storage": `kept for ${threeDigits(practice.months)} months on average`,
    aeration: "takes carbon dioxide off, and your time",
    membrane: "the cheapest way behind RO against the cheapest with resin alone, waste, filters and purchase counted",
    "lead-lag": "the lead is used to its end, the lag guards",
  };
  return words[habit.name];
}
