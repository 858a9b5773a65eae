import type { CostPart } from "@winter-bead/core";

/** Parts of a year's cost in the words of a bill, in the order they are read. */
export const COST_PARTS: readonly (readonly [CostPart, string])[] = [
  ["resin", "Resin"],
  ["delivery", "Deliveries"],
  ["labour", "Your time"],
  ["water", "Tap water"],
  ["waste", "Waste water"],
  ["energy", "Power"],
  ["consumables", "Membrane, prefilters, room"],
  ["purchase", "Purchase, spread over its years"],
];
