import type { Explanation } from "./explanation";
import { VOID_FRACTION } from "../bed/bed";
import { succeed, type Result } from "../result";
import { DRAINED_RESIN_WEIGHT, wetWeight, type WeightInput } from "../vessel/weight";

/** How the weight of a wet, closed vessel came about. */
export function explainWeight(input: WeightInput): Result<Explanation> {
  const weight = wetWeight(input);
  if (!weight.ok) return weight;
  const assumed = { from: "planning assumption", assumption: true } as const;
  return succeed({
    name: "Weight, wet",
    value: weight.value.kilograms,
    unit: "kg",
    formula: "E + (r + v) × V + (G − V)",
    words: "the empty vessel, the drained resin with the water in its voids, and the water above it",
    inputs: [
      { symbol: "E", name: "Empty vessel", value: input.empty, unit: "kg", from: "what you entered" },
      { symbol: "r", name: "Drained resin", value: DRAINED_RESIN_WEIGHT, unit: "kg/L", ...assumed },
      { symbol: "v", name: "Water in the voids", value: VOID_FRACTION, unit: "kg/L", ...assumed },
      { symbol: "V", name: "Resin in the vessel", value: input.resin, unit: "L", from: "what you entered" },
      { symbol: "G", name: "Vessel inside", value: input.grossVolume, unit: "L", from: "what you entered" },
    ],
    school: "weighing",
    source: "definition",
  });
}
