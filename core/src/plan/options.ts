import type { VesselKind } from "../vessel/vessel.record";
import type { Grade } from "../resin/capacity";

/** A vessel by its size, of no maker. */
export interface VesselSize {
  readonly name: string;
  readonly kind: VesselKind;
  /** L inside. */
  readonly grossVolume: number;
  /** mm. */
  readonly diameter: number;
  /** kg. */
  readonly emptyWeight: number;
  readonly fillFraction: number;
  /** The user has it already: it costs nothing. */
  readonly own?: boolean;
}

/** A size that is to be had anywhere, with the flow it suits. */
export interface GenericSize extends VesselSize {
  /** L/min. */
  readonly usualFlow: number;
}

/** Sizes that are to be had anywhere. */
export const GENERIC_SIZES: readonly GenericSize[] = [
  {
    name: "Small cartridge",
    kind: "cartridge",
    grossVolume: 1.5,
    diameter: 66,
    emptyWeight: 0.8,
    fillFraction: 1,
    usualFlow: 0.25,
  },
  {
    name: "Large cartridge",
    kind: "cartridge",
    grossVolume: 3.4,
    diameter: 95,
    emptyWeight: 1.4,
    fillFraction: 1,
    usualFlow: 0.6,
  },
  {
    name: "Small bottle",
    kind: "inner-seal-bottle",
    grossVolume: 7.5,
    diameter: 152,
    emptyWeight: 3.2,
    fillFraction: 0.85,
    usualFlow: 2,
  },
  {
    name: "Large bottle",
    kind: "inner-seal-bottle",
    grossVolume: 14,
    diameter: 180,
    emptyWeight: 5.2,
    fillFraction: 0.85,
    usualFlow: 3.2,
  },
  {
    name: "Tank",
    kind: "screw-head-tank",
    grossVolume: 28,
    diameter: 254,
    emptyWeight: 7.5,
    fillFraction: 0.86,
    usualFlow: 4,
  },
  {
    name: "Large tank",
    kind: "floated-tank",
    grossVolume: 60,
    diameter: 330,
    emptyWeight: 12,
    fillFraction: 0.75,
    usualFlow: 8,
  },
];

/** What stands before the resin; a boosted membrane has a pump of its own. */
export type Before =
  "nothing" | "aeration" | "membrane" | "membrane-and-aeration" | "boosted-membrane" | "boosted-membrane-and-aeration";
/** One vessel; two side by side, each with half the flow; two in a row, the second as the guard. */
export type Train = "single" | "twin" | "lead-lag";
export type Supply = "bag" | "bulk";

/** One way to do the work. */
export interface OptionSpec {
  readonly vessel: VesselSize;
  readonly train: Train;
  readonly before: Before;
  readonly grade: Grade;
  readonly supply: Supply;
}

export const TRAINS: readonly Train[] = ["single", "twin", "lead-lag"];
export const BEFORE: readonly Before[] = [
  "nothing",
  "aeration",
  "membrane",
  "membrane-and-aeration",
  "boosted-membrane",
  "boosted-membrane-and-aeration",
];
const GRADES: readonly Grade[] = ["virgin", "regenerated"];
export const SUPPLIES: readonly Supply[] = ["bag", "bulk"];

export const hasMembrane = (before: Before) => before.includes("membrane");
export const isBoosted = (before: Before) => before.startsWith("boosted");
export const isAerated = (before: Before) => before.endsWith("aeration");

/** What could stand before the resin in addition. */
export type Addition = "membrane" | "booster" | "aeration";

/** With one stage more; undefined where it is there already, or has nothing to stand on. */
export function beforeWith(before: Before, addition: Addition): Before | undefined {
  if (addition === "membrane")
    return hasMembrane(before) ? undefined : isAerated(before) ? "membrane-and-aeration" : "membrane";
  if (addition === "booster")
    return hasMembrane(before) && !isBoosted(before) ? (`boosted-${before}` as Before) : undefined;
  if (isAerated(before)) return undefined;
  return before === "nothing" ? "aeration" : (`${before}-and-aeration` as Before);
}

export const vesselsIn = ({ train }: Pick<OptionSpec, "train">) => (train === "single" ? 1 : 2);
/** Vessels that are emptied and filled when the charge is spent: of a lead and its lag only the lead. */
export const filledAtOnce = ({ train }: Pick<OptionSpec, "train">) => (train === "twin" ? 2 : 1);
/** L of resin in one vessel. */
export const resinIn = ({ grossVolume, fillFraction }: VesselSize) => grossVolume * fillFraction;

/** What a vessel is to the planner, and nothing else that is known of it; no weight counts as none. */
export const sizeOf = ({
  name,
  kind,
  grossVolume,
  diameter,
  emptyWeight = 0,
  fillFraction,
}: Omit<VesselSize, "emptyWeight"> & { readonly emptyWeight?: number | undefined }): VesselSize => ({
  name,
  kind,
  grossVolume,
  diameter,
  emptyWeight,
  fillFraction,
});

/** Every option of the generic sizes and the user's own vessels. @example generateOptions([]).length // 432 */
export const generateOptions = (
  own: readonly VesselSize[],
  sizes: readonly VesselSize[] = GENERIC_SIZES,
): OptionSpec[] =>
  [...own.map((vessel) => ({ ...sizeOf(vessel), own: true })), ...sizes.map(sizeOf)].flatMap((vessel) =>
    TRAINS.flatMap((train) =>
      BEFORE.flatMap((before) =>
        GRADES.flatMap((grade) => SUPPLIES.map((supply) => ({ vessel, train, before, grade, supply }))),
      ),
    ),
  );

const TRAIN_WORDS = { single: "", twin: "two side by side", "lead-lag": "two in series" } as const;

export const BEFORE_WORDS: Readonly<Record<Before, string>> = {
  nothing: "",
  aeration: "after aeration",
  membrane: "after RO",
  "membrane-and-aeration": "after RO and aeration",
  "boosted-membrane": "after RO with a booster pump",
  "boosted-membrane-and-aeration": "after RO with a booster pump and aeration",
};

/** `Large bottle, two in series, after RO, virgin resin in bulk`. */
export const optionName = ({ vessel, train, before, grade, supply }: OptionSpec): string =>
  [
    `${vessel.name}${vessel.own ? " (yours)" : ""}`,
    TRAIN_WORDS[train],
    BEFORE_WORDS[before],
    `${grade} resin${supply === "bulk" ? " in bulk" : ""}`,
  ]
    .filter((part) => part !== "")
    .join(", ");
