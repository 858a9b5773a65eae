import { MARKS, type Marks, type Use, type VesselKind, type VesselSize } from "@winter-bead/core";
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

export const KIND_OPTIONS = [
  { value: "screw-head-tank", label: "Tank, screw head" },
  { value: "inner-seal-bottle", label: "Bottle, inner seal" },
  { value: "floated-tank", label: "Tank, floated in" },
  { value: "cartridge", label: "Cartridge" },
] as const satisfies readonly { value: VesselKind; label: string }[];

export const USE_OPTIONS = [
  { value: "glass", label: "Glass" },
  { value: "paint", label: "Paint" },
  { value: "aquarium", label: "Aquarium" },
] as const satisfies readonly { value: Use; label: string }[];

export type MarksChoice = keyof typeof MARKS | "own";

export const marksOptions = (use: Use): readonly { readonly value: MarksChoice; readonly label: string }[] =>
  use === "aquarium"
    ? [
        { value: "aquarium-1", label: "Act at 1" },
        { value: "aquarium-2", label: "Act at 2" },
        { value: "own", label: "Own" },
      ]
    : [
        { value: "glass-10", label: "Change at 10" },
        { value: "glass-20", label: "Change at 20" },
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

export const SCALE_OPTIONS = [
  { value: "nacl", label: "ppm NaCl" },
  { value: "442", label: "ppm 442" },
  { value: "kcl", label: "ppm KCl" },
  { value: "ec", label: "µS/cm" },
] as const;

export const GRADE_OPTIONS = [
  { value: "virgin", label: "Virgin" },
  { value: "dyed", label: "Virgin, dyed" },
  { value: "regenerated", label: "Regenerated" },
] as const;

export const CONTAINER_OPTIONS = [
  { value: "fresh", label: "Just opened" },
  { value: "sealed-foil", label: "Sealed foil" },
  { value: "snap-lid-pail", label: "Snap-lid pail" },
  { value: "heat-resealed", label: "Heat-resealed" },
  { value: "rolled-or-zip", label: "Rolled or zip" },
  { value: "shrink-film", label: "Shrink film" },
  { value: "left-open", label: "Left open" },
] as const;
