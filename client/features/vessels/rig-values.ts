import {
  cylinderLitres,
  MARKS,
  type Marks,
  type Rig,
  type Scale,
  type Stage,
  type Use,
  type Vessel,
  type VesselKind,
  type VesselSize,
} from "@winter-bead/core";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import { marksChoiceOf, usualMarks, VESSEL_PRESETS, type MarksChoice } from "./presets";

export interface RigValues {
  name: string;
  use: Use;
  tapId: string;
  flow: string;
  jobName: string;
  litresPerJob: string;
  jobsPerWeek: string;
  before: string;
  rejection: string;
  vesselName: string;
  kind: VesselKind;
  sizeBy: "volume" | "height";
  grossVolume: string;
  diameter: string;
  height: string;
  emptyWeight: string;
  fillPercent: string;
  marks: MarksChoice;
  watch: string;
  limit: string;
  hard: string;
  /** The scale of own marks: a named one, or a meter's own factor. */
  marksScale: string;
}

export const JOBS: Readonly<Record<Use, { readonly name: string; readonly litres: number }>> = {
  glass: { name: "house", litres: 60 },
  paint: { name: "car", litres: 40 },
  aquarium: { name: "water change", litres: 45 },
};

export const text = (value: number | undefined) => (value === undefined ? "" : String(Number(value.toPrecision(5))));

function beforeOf(stages: readonly Stage[] | undefined): string {
  if (!stages) return "none";
  if (stages.some((stage) => stage.kind === "membrane")) return "membrane";
  return stages.some((stage) => stage.kind === "sediment" || stage.kind === "carbon") ? "filters" : "none";
}

function stagesOf(values: RigValues, vesselId: string): Stage[] {
  const resin: Stage = { kind: "resin", vesselId };
  if (values.before === "none") return [resin];
  const filters: Stage[] = [{ kind: "sediment" }, { kind: "carbon" }];
  if (values.before === "filters") return [...filters, resin];
  return [...filters, { kind: "membrane", rejection: (typedNumber(values.rejection) ?? NaN) / 100 }, resin];
}

const NAMED = ["nacl", "442", "kcl", "ec"] as const;

/** A scale from the form's text. */
export const scaleOf = (text: string): Scale => NAMED.find((scale) => scale === text) ?? Number(text);

function marksOf(values: RigValues): Marks {
  if (values.marks !== "own") return MARKS[values.marks];
  return {
    watch: typedNumber(values.watch) as number,
    limit: typedNumber(values.limit) as number,
    hard: typedNumber(values.hard) as number,
    scale: scaleOf(values.marksScale),
    ...(values.use === "aquarium" ? { capacityUsed: 0.9 } : {}),
  };
}

const internal = (quantity: Parameters<typeof toInternal>[0], value: string, units: Units) => {
  const number = typedNumber(value);
  return number === undefined ? undefined : toInternal(quantity, number, units);
};

export function vesselBody(values: RigValues, units: Units): Omit<Vessel, "id"> {
  const diameter = internal("length", values.diameter, units);
  const height = internal("length", values.height, units);
  const measured = diameter !== undefined && height !== undefined ? cylinderLitres(diameter, height) : undefined;
  return {
    name: values.vesselName || `${values.name} vessel`,
    kind: values.kind,
    grossVolume: (values.sizeBy === "height" ? measured : internal("volume", values.grossVolume, units)) as number,
    diameter: diameter as number,
    emptyWeight: internal("weight", values.emptyWeight, units),
    fillFraction: (typedNumber(values.fillPercent) ?? NaN) / 100,
    marks: marksOf(values),
  };
}

export function rigBody(values: RigValues, vesselId: string, units: Units, known: Rig | undefined): Omit<Rig, "id"> {
  return {
    name: values.name,
    use: values.use,
    tapId: values.tapId,
    flow: internal("flow", values.flow, units) as number,
    stages: stagesOf(values, vesselId),
    jobName: values.jobName,
    litresPerJob: internal("volume", values.litresPerJob, units) as number,
    jobsPerWeek: values.jobsPerWeek.trim() === "" ? undefined : (typedNumber(values.jobsPerWeek) ?? NaN),
    meterRollsOverAt: known?.meterRollsOverAt,
  };
}

const sizeValues = (
  size: Omit<VesselSize, "emptyWeight"> & { readonly emptyWeight?: number | undefined },
  units: Units,
) => ({
  kind: size.kind,
  sizeBy: "volume" as const,
  grossVolume: text(toShown("volume", size.grossVolume, units)),
  diameter: text(toShown("length", size.diameter, units)),
  height: "",
  emptyWeight: text(size.emptyWeight === undefined ? undefined : toShown("weight", size.emptyWeight, units)),
  fillPercent: text(100 * size.fillFraction),
});

export function rigValues(rig: Rig | undefined, vessel: Vessel | undefined, firstTap: string, units: Units): RigValues {
  const membrane = rig?.stages.find((stage) => stage.kind === "membrane");
  const preset = VESSEL_PRESETS[3]!;
  const use = rig?.use ?? "glass";
  const marks = vessel?.marks ?? MARKS["glass-10"];
  const size = vessel ?? preset;
  return {
    name: rig?.name ?? "",
    use,
    tapId: rig?.tapId ?? firstTap,
    flow: text(toShown("flow", rig?.flow ?? preset.flow, units)),
    jobName: rig?.jobName ?? JOBS[use].name,
    litresPerJob: text(toShown("volume", rig?.litresPerJob ?? JOBS[use].litres, units)),
    jobsPerWeek: text(rig?.jobsPerWeek),
    before: beforeOf(rig?.stages),
    rejection: text(100 * (membrane?.kind === "membrane" ? membrane.rejection : 0.95)),
    vesselName: vessel?.name ?? "",
    ...sizeValues(size, units),
    marks: vessel ? marksChoiceOf(vessel.marks) : usualMarks(use),
    watch: text(marks.watch),
    limit: text(marks.limit),
    hard: text(marks.hard),
    marksScale: String(marks.scale),
  };
}
