import { isAgainstReadings, type Charge, type EndReason, type ReasonSeen, type Vessel } from "@winter-bead/core";
import type { Bodies, Complaint } from "../../forms/resolve";
import { internalNumber, shownNumber, type Texts } from "../../forms/texts";
import { scaleUnit, shown, threeDigits, type Units } from "../../ui/format";

/** How the bag was kept, where there is nothing to say of it. */
export const FRESH_BAG = "fresh";
/** A charge that was fresh when it was filled. */
export const NOT_USED = "no";

/** What the form of a charge holds beside its fields. */
export const besideCharge = (charge: Charge | undefined): Texts => ({
  bag: charge?.stored?.container ?? FRESH_BAG,
  partUsed: charge?.partUsed?.by ?? NOT_USED,
  /** The litres, and the reason, that were asked about and are right. */
  rightFill: "",
  rightReason: "",
});

/** A charge as it is typed, what was chosen beside its fields put in. */
export function chargeAsTyped(charge: Readonly<Record<string, unknown>>, { bag, partUsed }: Texts) {
  const { stored, partUsed: used, ...rest } = charge as Partial<Charge>;
  const before = used as Record<string, unknown> | undefined;
  return {
    ...rest,
    ...(bag === FRESH_BAG ? {} : { stored: { ...stored, container: bag, warm: stored?.warm ?? false } }),
    ...(partUsed === NOT_USED
      ? {}
      : {
          partUsed: {
            by: partUsed,
            ...(partUsed === "jobs" ? { jobs: before?.["jobs"] ?? NaN } : {}),
            ...(partUsed === "weeks" ? { weeks: before?.["weeks"] ?? NaN } : {}),
          },
        }),
  };
}

/** The vessel's usual fill, L, round as it reads in the user's units. @example usualFill(bottle, "metric") // 11.9 */
export const usualFill = ({ grossVolume, fillFraction }: Vessel, units: Units): number =>
  internalNumber(
    "resinVolume",
    Number(shownNumber("resinVolume", grossVolume * fillFraction, units).toPrecision(3)),
    units,
  );

/** Rounding in the display may exceed the vessel by this share. */
const ROUNDING = 1.005;

/** More resin than the vessel's inside is refused, more than its usual fill is asked about. */
export function fillComplaints(
  { resinLitres }: Pick<Charge, "resinLitres">,
  { grossVolume, fillFraction }: Vessel,
  rightFill: string,
  units: Units,
): readonly Complaint[] {
  const path = "charge.resinLitres";
  const words = (litres: number) => {
    const { text, unit } = shown("resinVolume", litres, units);
    return `${text} ${unit}`;
  };
  if (resinLitres > grossVolume * ROUNDING)
    return [{ path, message: `The vessel holds ${words(grossVolume)} inside; check both volumes.` }];
  const target = grossVolume * fillFraction;
  if (!(resinLitres > target * ROUNDING) || rightFill === String(resinLitres)) return [];
  return [
    {
      path,
      message: `More than its usual ${words(target)}: the beads need room to settle and swell. Say that it is right, or correct it.`,
    },
  ];
}

/** A reason that goes against the last readings, in words. */
export function reasonWords({ output, limit, scale, why }: ReasonSeen): string {
  const unit = scaleUnit(scale);
  const last = `The last output was ${threeDigits(output)} ${unit}`;
  return why === "limit"
    ? `${last}, at or over the limit of ${threeDigits(limit)}.`
    : `${last}, under the limit of ${threeDigits(limit)}.`;
}

/** A reason that the last readings do not bear out is asked about. */
export function reasonComplaints(
  path: string,
  why: EndReason | undefined,
  seen: ReasonSeen | undefined,
  rightReason: string,
): readonly Complaint[] {
  if (why === undefined || rightReason === why || !seen || !isAgainstReadings(why, seen)) return [];
  return [{ path, message: `${reasonWords(seen)} Say that it is right, or choose the other reason.` }];
}

/** The first fault's own field asks: whether the figure or the reason stands. */
export const asksAboutFill = (bodies: Bodies, vessel: Vessel, rightFill: string) => {
  const { resinLitres = NaN } = bodies["charge"] as Partial<Charge>;
  const { grossVolume, fillFraction } = vessel;
  return (
    resinLitres > grossVolume * fillFraction * ROUNDING &&
    resinLitres <= grossVolume * ROUNDING &&
    rightFill !== String(resinLitres)
  );
};
