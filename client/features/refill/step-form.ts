import { type Charge, type Found, type Guided, type Id } from "@winter-bead/core";
import { toolsFor, type Asked, type GuideStep } from "@winter-bead/core/src/refill";
import { useMemo } from "react";
import { useRecords } from "../../data/store";
import { inUse } from "../../data/in-use";
import { useRecordForm, type RecordForm } from "../../forms/useRecordForm";
import type { Complaint } from "../../forms/resolve";
import { shown, type Units } from "../../ui/format";
import { usualMeter } from "../log/last-values";
import { usualFill } from "../setup/charge-as-typed";
import { foundAsTyped } from "./found-as-typed";
import type { Guide } from "./useGuide";

const resinIn = (guided: Guided, charge: Charge | undefined) =>
  guided === "exchange" ? ("regenerated" as const) : (charge?.grade ?? "virgin");

/** What stands in the boxes of a step before anything is typed. */
function presets(guide: Guide, asks: readonly Asked[], meterId: Id | undefined, units: Units): Found {
  const { guided, charge, vessel, setting } = guide;
  const has = (what: Asked) => asks.includes(what);
  const output = (meterId === undefined ? { scale: "nacl" } : { meterId }) as NonNullable<Found["output"]>;
  const missing =
    guided === "top-up" ? Math.max(0, setting.ways.fillTo * vessel.grossVolume - (charge?.resinLitres ?? 0)) : NaN;
  return {
    ...(has("tools") ? { tools: toolsFor(setting).length } : {}),
    ...(has("last-reading") || has("first-reading") ? { output } : {}),
    ...(has("resin")
      ? {
          grade: resinIn(guided, charge),
          ...(guided === "top-up"
            ? missing > 0.05
              ? { resinLitres: missing }
              : {}
            : { resinLitres: usualFill({ ...vessel, fillFraction: setting.ways.fillTo }, units) }),
        }
      : {}),
    ...(has("seals") ? { newSeals: false } : {}),
    ...(has("pure-water") ? { pureWater: true } : {}),
  };
}

/** More than the vessel's inside does not go in. */
function tooMuch({ guided, vessel, charge }: Guide, found: Found | undefined, units: Units): readonly Complaint[] {
  const there = guided === "top-up" ? (charge?.resinLitres ?? 0) : 0;
  const { resinLitres } = found ?? {};
  if (resinLitres === undefined || resinLitres + there <= 1.005 * vessel.grossVolume) return [];
  const { text, unit } = shown("resinVolume", vessel.grossVolume - there, units);
  return [{ path: "step.found.resinLitres", message: `${vessel.name} takes ${text} ${unit} at most.` }];
}

/** The boxes of one step: what is read, counted and measured there; what is typed survives a closed tab. */
export function useStepForm(guide: Guide, step: GuideStep, units: Units): RecordForm {
  const { records } = useRecords("meters");
  const meterId = useMemo(() => usualMeter(guide.facts.visits, inUse(records)), [guide.facts.visits, records]);
  const known = guide.work?.foundAt.get(step.id);
  const parts = useMemo(
    () => ({
      step: {
        kind: "refill-steps" as const,
        before: {
          ...{ workId: guide.id, guided: guide.guided, rigId: guide.facts.rig.id, vesselId: guide.vessel.id },
          ...{ step: step.id, outcome: "done", at: "2027-01-01T00:00:00.000Z" },
          found: { ...presets(guide, step.asks, meterId, units), ...known },
        },
      },
    }),
    // The guide is made anew with each record; what the boxes start from changes with these alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [guide.id, guide.setting, guide.charge?.id, step, meterId, units, known],
  );
  return useRecordForm({
    name: `refill:${guide.id}:${step.id}`,
    parts,
    compose: ({ step: body }) => {
      const { found, ...rest } = body as { found?: Found };
      const typed = foundAsTyped(found ?? {});
      return { step: { ...rest, ...(typed ? { found: typed } : {}) } };
    },
    check: (bodies) => tooMuch(guide, (bodies["step"] as { found?: Found }).found, units),
  });
}
