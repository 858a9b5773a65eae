import {
  cylinderLitres,
  MARKS,
  type Id,
  type Marks,
  type Place,
  type Rig,
  type Use,
  type Vessel,
} from "@winter-bead/core";
import type { Bodies } from "../../forms/resolve";
import type { Texts } from "../../forms/texts";
import { toInternal, typedNumber, type Units } from "../../ui/format";
import { marksChoiceOf, usualMarks, type MarksChoice } from "./presets";
import {
  NEW_VESSEL,
  placesFrom,
  stagesFrom,
  stagesOfText,
  stagesText,
  typedStages,
  type TypedStage,
} from "./stages-as-typed";

export const JOBS: Readonly<Record<Use, { readonly name: string; readonly litres: number }>> = {
  glass: { name: "house", litres: 60 },
  paint: { name: "car", litres: 40 },
  aquarium: { name: "water change", litres: 45 },
};

/** What the form of a rig holds beside the fields of the rig and its vessel. */
export const besideRig = (
  rig: Rig | undefined,
  vessel: Vessel | undefined,
  places: readonly Place[],
  begun: readonly TypedStage[],
  units: Units,
): Texts => ({
  stages: stagesText(rig ? typedStages(rig.stages, places, units) : begun),
  sizeBy: "volume",
  height: "",
  marks: vessel ? marksChoiceOf(vessel.marks) : usualMarks(rig?.use ?? "glass"),
});

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
export function rigAsTyped(bodies: Bodies, beside: Texts, units: Units, known: Rig["stages"]): Bodies {
  const [rig, vessel] = [bodies["rig"] as Partial<Rig>, bodies["vessel"] as Partial<Vessel>];
  const use = rig.use ?? "glass";
  return {
    rig: { ...rig, stages: stagesFrom(stagesOfText(beside["stages"]), known, units) },
    vessel: {
      ...vessel,
      name: vessel.name || `${rig.name ?? ""} vessel`,
      grossVolume: volumeOf(vessel, beside, units),
      marks: marksOf(beside["marks"] as MarksChoice, vessel.marks ?? {}, use),
    },
  };
}

/** A vessel that comes with a rig: the typed one, or another like it. */
export interface NewVessel {
  readonly id: Id;
  readonly body: Omit<Vessel, "id">;
}

export interface HungAsTyped {
  /** Those that are new, in the order of the flow. */
  readonly vessels: readonly NewVessel[];
  readonly places: readonly Place[];
}

/**
 * Who stands where, and which vessels are new: the first of them is the one that was typed, where the rig had none; the
 * others are like it.
 *
 * @param typedId of the vessel whose fields the form shows
 * @param isNew whether that vessel is itself new
 */
export function hungAsTyped(
  typed: readonly TypedStage[],
  { id: _own, ...like }: Vessel,
  typedId: Id,
  isNew: boolean,
  newId: () => Id,
): HungAsTyped {
  const made = new Map<Id, Id>();
  const vessels: NewVessel[] = [];
  typed
    .filter(({ kind, vessel }) => kind === "resin" && vessel === NEW_VESSEL)
    .forEach(({ id: stageId }, i) => {
      const isTyped = isNew && i === 0;
      const id = isTyped ? typedId : newId();
      made.set(stageId, id);
      const count = isNew ? i + 1 : i + 2;
      vessels.push({ id, body: isTyped ? like : { ...like, name: `${like.name} ${count}` } });
    });
  return { vessels, places: placesFrom(typed, made) };
}
