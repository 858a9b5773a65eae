import type { Charge, Container, EndReason, Grade, Packing, Vessel } from "@winter-bead/core";
import type { Complaint } from "../../ui/form";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";

/** A refill as typed. */
export interface ChargeValues {
  grade: Grade;
  resinLitres: string;
  packing: Packing;
  container: "fresh" | Container;
  months: string;
  warm: "no" | "yes";
  startTotal: string;
  why: EndReason;
  note: string;
}

const text = (value: number) => String(Number(value.toPrecision(4)));

/** What the form starts with: the vessel's usual fill of the resin used before. */
export const usualCharge = (vessel: Vessel, before: Charge | undefined, units: Units): ChargeValues => ({
  grade: before?.grade ?? "virgin",
  resinLitres: text(toShown("resinVolume", vessel.grossVolume * vessel.fillFraction, units)),
  packing: "settled",
  container: "fresh",
  months: "1",
  warm: "no",
  startTotal: "",
  why: "limit",
  note: "",
});

/** The new charge that was typed; what is no number stays NaN for the check to find. */
export function chargeBody(
  values: ChargeValues,
  vessel: Vessel,
  rigId: string,
  units: Units,
  now: Date,
): Omit<Charge, "id"> {
  const total = typedNumber(values.startTotal);
  const stored =
    values.container === "fresh"
      ? undefined
      : { container: values.container, months: typedNumber(values.months) ?? NaN, warm: values.warm === "yes" };
  return {
    vesselId: vessel.id,
    rigId,
    grade: values.grade,
    resinLitres: toInternal("resinVolume", typedNumber(values.resinLitres) ?? NaN, units),
    packing: values.packing,
    stored,
    filledAt: now.toISOString(),
    startTotal: total === undefined ? undefined : toInternal("volume", total, units),
  };
}

/** Rounding in the display may exceed the vessel by this share. */
const ROUNDING = 1.001;

/** What only vessel and charge together can tell. */
export const overfull = (charge: Pick<Charge, "resinLitres">, vessel: Vessel): readonly Complaint[] =>
  charge.resinLitres > vessel.grossVolume * ROUNDING
    ? [{ path: "resinLitres", message: "There is more resin than the vessel holds; check both volumes." }]
    : [];

/** The charge in use, ended now for the reason typed. */
export const endedBody = (
  { vesselId, rigId, grade, resinLitres, packing, stored, filledAt, startTotal }: Charge,
  { why, note }: ChargeValues,
  now: Date,
): Omit<Charge, "id"> => ({
  vesselId,
  rigId,
  grade,
  resinLitres,
  packing,
  stored,
  filledAt,
  startTotal,
  ended: { at: now.toISOString(), why, ...(note ? { note } : {}) },
});
