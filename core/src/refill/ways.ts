import { choice, group, number, type ValueOf } from "../descriptor/field";
import { RANGES } from "../ranges";
import type { VesselKind } from "../vessel/vessel.record";

/** Where the tube that reaches to the bottom is while beads go in. */
const RISER = choice(
  "The riser",
  { first: "In first, plugged", floated: "Floated in last", "with-head": "Stays with the head", none: "There is none" },
  { fault: "Say when the riser goes in." },
);
const FILL = choice(
  "Scoop or pour",
  { scoop: "By the scoop", pour: "Poured from the bag" },
  { fault: "Scoop or pour." },
);
const DRAIN = choice(
  "Draining",
  { hours: "Left to drain for hours", wet: "Emptied wet, at once" },
  { fault: "Drained, or emptied wet." },
);
const EMPTY = choice(
  "Emptying",
  { shake: "Turned over and shaken", hose: "Flushed out with a hose" },
  { fault: "Shaken out, or flushed out." },
);
const POSITION = choice(
  "While it is emptied",
  { standing: "Lifted from its stand", laid: "Laid down first" },
  { fault: "Standing, or laid down." },
);
const MOUNT = choice(
  "How it stands",
  { alone: "By itself", stand: "With others on one stand", "lead-lag": "As lead, with a lag behind" },
  { fault: "Alone, on a stand, or lead and lag." },
);

/** The school that a crew follows at a refill: chosen once, kept with the step where it was chosen, changeable at each. */
export const WAYS = group("The way it is done", {
  riser: RISER,
  fill: FILL,
  drain: DRAIN,
  empty: EMPTY,
  position: POSITION,
  mount: MOUNT,
  scoop: number({ name: "A scoop", unit: "L", above: 0, to: 20 }, { label: "A scoop holds", quantity: "resinVolume" }),
  /** Share of the inside. */
  fillTo: number({ ...RANGES.share, above: 0 }, { called: "The fill", label: "Fill to", quantity: "share" }),
});
export interface Ways extends ValueOf<typeof WAYS> {}

/** Choices among ways, as a form shows them. */
export const WAY_CHOICES = {
  riser: RISER,
  fill: FILL,
  drain: DRAIN,
  empty: EMPTY,
  position: POSITION,
  mount: MOUNT,
} as const;
export type WayName = keyof typeof WAY_CHOICES;

/** L of a usual scoop: a planning assumption, which the crew may change. */
const SCOOP = 0.8;

const USUAL: Readonly<Record<VesselKind, Pick<Ways, "riser" | "fill" | "empty" | "position">>> = {
  "screw-head-tank": { riser: "first", fill: "pour", empty: "hose", position: "laid" },
  "inner-seal-bottle": { riser: "first", fill: "scoop", empty: "shake", position: "standing" },
  "floated-tank": { riser: "floated", fill: "pour", empty: "hose", position: "laid" },
  cartridge: { riser: "none", fill: "scoop", empty: "shake", position: "laid" },
};

/** What ways a kind of vessel leaves open: a cartridge has no riser, and a bottle's seal sits around a tube that stays. */
export const RISER_WAYS: Readonly<Record<VesselKind, readonly Ways["riser"][]>> = {
  "screw-head-tank": ["first", "with-head", "floated"],
  "inner-seal-bottle": ["first", "floated"],
  "floated-tank": ["floated", "first"],
  cartridge: ["none"],
};

/**
 * The way that a vessel of a kind is usually refilled.
 * @param fillTo share of its inside
 * @example usualWays("floated-tank", 0.75).riser // "floated"
 */
export const usualWays = (kind: VesselKind, fillTo: number): Ways => ({
  ...USUAL[kind],
  drain: "wet",
  mount: "alone",
  scoop: SCOOP,
  fillTo,
});
