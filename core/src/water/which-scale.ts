import { optional, reference, scale, type Rule } from "../descriptor/field";
import type { Id } from "../descriptor/identity";
import type { Scale } from "../units/scale";

/** By what a reading is read; a scale only where no meter is named, or a switchable one stood on another. */
export const WHICH_SCALE = {
  meterId: optional(reference("meters", "The meter")),
  scale: optional(scale()),
} as const;

/** A reading is kept as it was seen: conductivity at 25 °C is derived, so that correcting a meter's scale corrects its history. */
export const HAS_SCALE: Rule<{ readonly meterId?: Id | undefined; readonly scale?: Scale | undefined }> = {
  path: "scale",
  fault: "Say which meter or which scale: a reading without a scale is ambiguous by 40 %.",
  holds: (it) => it.meterId !== undefined || it.scale !== undefined,
};
