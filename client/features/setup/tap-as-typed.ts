import type { Tap } from "@winter-bead/core";
import type { Bodies } from "../../forms/resolve";
import type { Texts } from "../../forms/texts";

/** Chosen when the tap is in a place not yet known. */
export const NEW_PLACE = "new";
/** One reading fills the range about it until more are known. */
const ONE_READING_SPREAD = 0.15;

/** The tap with its place, and a range about a typical that stands alone. */
export function tapAsTyped(bodies: Bodies, { place, siteName }: Texts, siteId: string): Bodies {
  const isNew = place === NEW_PLACE;
  const tap = bodies["tap"] as Partial<Tap>;
  const { typical = NaN } = tap;
  const reach = typical * ONE_READING_SPREAD;
  const { low = typical - reach, high = typical + reach } = tap;
  return {
    ...(isNew ? { site: { name: String(siteName ?? "") } } : {}),
    tap: { ...tap, siteId: isNew ? siteId : String(place), low, typical, high },
  };
}
