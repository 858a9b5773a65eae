import type { Scale } from "@winter-bead/core";
import type { Option } from "../ui/boxes";
import { scaleUnit, typedNumber } from "../ui/format";

const NAMED = ["nacl", "442", "kcl", "ec"] as const;

/** Scales that meters have, by what stands beside their numbers. */
export const SCALE_OPTIONS: readonly Option<(typeof NAMED)[number]>[] = NAMED.map((scale) => ({
  value: scale,
  label: scaleUnit(scale),
}));

/** A scale from a form's text: a named one, or a meter's own factor. */
export const scaleOf = (text: string): Scale => NAMED.find((scale) => scale === text) ?? typedNumber(text) ?? NaN;

/** The scales to choose from, the one that stands there among them where it is a meter's own factor. */
export const scalesWith = (now: string): readonly Option<string>[] =>
  SCALE_OPTIONS.some((option) => option.value === now) || now === ""
    ? SCALE_OPTIONS
    : [...SCALE_OPTIONS, { value: now, label: scaleUnit(scaleOf(now)) }];
