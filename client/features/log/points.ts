import { Trains } from "@winter-bead/core";
import type { RigFacts } from "../rack/assess";
import type { DraftField, LogPoint } from "./draft-visit";

const NAMES = { carbon: "After carbon", membrane: "After RO" } as const;

/** What is known of a train when it is logged. */
export type TrainFacts = Pick<RigFacts, "rig" | "train" | "now">;

/** Every point of this train, in the order of the flow; the last is the output. */
export function pointsOf({ rig, train, now }: TrainFacts): readonly LogPoint[] {
  const has = (kind: string) => rig.stages.some((stage) => stage.kind === kind);
  const beds = new Trains(train.arrangements).at(rig.id, now);
  const before = beds.slice(0, -1).map(({ stageId }, i): LogPoint => ({
    field: `behind:${stageId}`,
    label: beds.length === 2 ? "After lead" : `After ${i + 1}`,
    point: "output",
    stageId,
  }));
  const last = beds.length > 1 ? beds[beds.length - 1] : undefined;
  return [
    { field: "feed", label: "Feed", point: "feed" },
    ...(has("carbon") ? [{ field: "carbon", label: NAMES.carbon, point: "after-carbon" } as const] : []),
    ...(has("membrane") ? [{ field: "membrane", label: NAMES.membrane, point: "after-membrane" } as const] : []),
    ...before,
    { field: "output", label: "Output", point: "output", ...(last ? { stageId: last.stageId } : {}) },
  ];
}

/** Boxes that stand side by side on a phone, the water's among them. */
const MOST_BOXES = 4;

/** What is read most: what comes out, what leaves the lead, what reaches the resin, then the tap. */
function rankOf({ field }: LogPoint, hasMembrane: boolean): number {
  if (field === "output") return 0;
  if (field === "membrane") return 1;
  if (field === "feed") return hasMembrane ? 3 : 1;
  return field === "carbon" ? 5 : 2;
}

/**
 * The points that have a box, and those that wait behind their names.
 * @param asked points that were asked for, the newest last: they come before the others
 */
export function boxesOf(
  points: readonly LogPoint[],
  asked: readonly DraftField[],
): { readonly shown: readonly LogPoint[]; readonly waiting: readonly LogPoint[] } {
  const hasMembrane = points.some(({ field }) => field === "membrane");
  const placeOf = (each: LogPoint) =>
    each.field === "output"
      ? -1
      : asked.includes(each.field)
        ? -1 - asked.indexOf(each.field)
        : rankOf(each, hasMembrane);
  const ranked = [...points].sort((a, b) => placeOf(a) - placeOf(b) || points.indexOf(a) - points.indexOf(b));
  const output = points.filter(({ field }) => field === "output");
  const others = ranked.filter(({ field }) => field !== "output").slice(0, MOST_BOXES - 1 - output.length);
  const shown = points.filter((each) => output.includes(each) || others.includes(each));
  return { shown, waiting: points.filter((each) => !shown.includes(each)) };
}
