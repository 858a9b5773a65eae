import { cylinderLitres, MARKS, type Marks, type Rig, type Stage, type Use, type Vessel } from "@winter-bead/core";
import { USUAL_REJECTION } from "@winter-bead/core/src/start";
import type { Bodies } from "../../forms/resolve";
import type { Texts } from "../../forms/texts";
import { toInternal, typedNumber, type Units } from "../../ui/format";
import { marksChoiceOf, usualMarks, type MarksChoice } from "./presets";

export const JOBS: Readonly<Record<Use, { readonly name: string; readonly litres: number }>> = {
  glass: { name: "house", litres: 60 },
  paint: { name: "car", litres: 40 },
  aquarium: { name: "water change", litres: 45 },
};

/** What stands before the resin, as one choice. */
export type Before = "none" | "filters" | "membrane" | "own";

const FILTERS: readonly Stage[] = [{ kind: "sediment" }, { kind: "carbon" }];

function beforeOf(stages: readonly Stage[] | undefined): Before {
  const kinds = (stages ?? []).map(({ kind }) => kind).join(" ");
  if (kinds === "" || kinds === "resin") return "none";
  if (kinds === "sediment carbon resin") return "filters";
  return kinds === "sediment carbon membrane resin" ? "membrane" : "own";
}

const membraneOf = (stages: readonly Stage[] | undefined) =>
  stages?.find((stage): stage is Stage & { readonly kind: "membrane" } => stage.kind === "membrane");

/** What the form of a rig holds beside the fields of the rig and its vessel. */
export const besideRig = (rig: Rig | undefined, vessel: Vessel | undefined): Texts => ({
  before: beforeOf(rig?.stages),
  rejection: String(Number((100 * (membraneOf(rig?.stages)?.rejection ?? USUAL_REJECTION)).toPrecision(5))),
  sizeBy: "volume",
  height: "",
  marks: vessel ? marksChoiceOf(vessel.marks) : usualMarks(rig?.use ?? "glass"),
});

function stagesOf(
  { before, rejection }: Texts,
  vesselId: string,
  known: readonly Stage[] | undefined,
): readonly Stage[] {
  const resin: Stage = { kind: "resin", vesselId };
  if (before === "own") return known ?? [resin];
  if (before === "none") return [resin];
  if (before === "filters") return [...FILTERS, resin];
  const membrane = membraneOf(known);
  const typed = (typedNumber(String(rejection)) ?? NaN) / 100;
  const untouched = membrane && Math.abs(typed - membrane.rejection) < 1e-6;
  return [...FILTERS, { kind: "membrane", rejection: untouched ? membrane.rejection : typed }, resin];
}

function marksOf(choice: MarksChoice, own: Partial<Marks>, use: Use): Partial<Marks> {
  if (choice !== "own") return MARKS[choice];
  const { capacityUsed, ...marks } = own;
  return use === "aquarium" ? { ...marks, capacityUsed: capacityUsed ?? 0.9 } : marks;
}

/** Litres of a vessel measured by its height; as they were where no height was typed. */
function volumeOf({ grossVolume, diameter }: Partial<Vessel>, { sizeBy, height }: Texts, units: Units) {
  if (sizeBy !== "height") return grossVolume;
  const millimetres = toInternal("length", typedNumber(String(height)) ?? NaN, units);
  return diameter === undefined ? NaN : cylinderLitres(diameter, millimetres);
}

/** The rig and its vessel as they are typed, what was chosen beside their fields put in. */
export function rigAsTyped(
  bodies: Bodies,
  beside: Texts,
  units: Units,
  vesselId: string,
  known: readonly Stage[] | undefined,
): Bodies {
  const [rig, vessel] = [bodies["rig"] as Partial<Rig>, bodies["vessel"] as Partial<Vessel>];
  const use = rig.use ?? "glass";
  return {
    rig: { ...rig, stages: stagesOf(beside, vesselId, known) },
    vessel: {
      ...vessel,
      name: vessel.name || `${rig.name ?? ""} vessel`,
      grossVolume: volumeOf(vessel, beside, units),
      marks: marksOf(beside["marks"] as MarksChoice, vessel.marks ?? {}, use),
    },
  };
}
