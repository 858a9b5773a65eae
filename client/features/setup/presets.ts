import { MARKS, type Marks, type Use, type VesselSize } from "@winter-bead/core";
import { GENERIC_SIZES } from "@winter-bead/core/src/plan/options";

/** A vessel by size, of no maker. */
export interface VesselPreset extends VesselSize {
  /** L/min that suits it. */
  readonly flow: number;
}

export const VESSEL_PRESETS: readonly VesselPreset[] = GENERIC_SIZES.map(({ usualFlow, ...size }) => ({
  ...size,
  flow: usualFlow,
}));

export type MarksChoice = keyof typeof MARKS | "own";

export const marksOptions = (use: Use): readonly { readonly value: MarksChoice; readonly label: string }[] =>
  use === "aquarium"
    ? [
        { value: "aquarium-1", label: "Act at 1 ppm NaCl" },
        { value: "aquarium-2", label: "Act at 2 ppm NaCl" },
        { value: "own", label: "Own" },
      ]
    : [
        { value: "glass-10", label: "Change at 10 ppm NaCl" },
        { value: "glass-20", label: "Change at 20 ppm NaCl" },
        { value: "own", label: "Own" },
      ];

export const usualMarks = (use: Use): MarksChoice => (use === "aquarium" ? "aquarium-1" : "glass-10");

/** Which school's marks these are. */
export function marksChoiceOf(marks: Marks): MarksChoice {
  const found = (Object.keys(MARKS) as (keyof typeof MARKS)[]).find(
    (name) =>
      MARKS[name].scale === marks.scale &&
      MARKS[name].limit === marks.limit &&
      MARKS[name].hard === marks.hard &&
      MARKS[name].watch === marks.watch,
  );
  return found ?? "own";
}
