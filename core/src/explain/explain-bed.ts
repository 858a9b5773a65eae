import type { Explanation } from "./explanation";
import { CHEMISTRY_SCHOOL } from "./explain-life";
import { describeBed, viscosity, VOID_FRACTION, type Bed } from "../bed/bed";
import { succeed, type Result } from "../result";
import { DEFAULT_TEMPERATURE } from "../water/water";

const typed = "what you entered";

/** How contact time, bed volumes an hour and pressure loss came about. */
export function explainBed(
  bed: Bed,
): Result<{ readonly contact: Explanation; readonly bedVolumes: Explanation; readonly pressure: Explanation }> {
  const answer = describeBed(bed);
  if (!answer.ok) return answer;
  const { contactSeconds, bedVolumesPerHour, pressureLoss, velocity, depth } = answer.value;
  const volume = { symbol: "V", name: "Resin in the vessel", value: bed.volume, unit: "L", from: typed };
  const flow = { symbol: "Q", name: "Flow", value: bed.flow, unit: "L/min", from: typed };
  const common = { school: CHEMISTRY_SCHOOL };
  return succeed({
    contact: {
      ...common,
      name: "Contact time",
      value: contactSeconds,
      unit: "s",
      formula: "60 × V / Q",
      words: "resin volume divided by flow, as if the bed were empty",
      inputs: [volume, flow],
      source: "definition",
    },
    bedVolumes: {
      ...common,
      name: "Bed volumes an hour",
      value: bedVolumesPerHour,
      unit: "per h",
      formula: "60 × Q / V",
      words: "how often an hour the bed's own volume goes through",
      inputs: [volume, flow],
      source: "definition",
    },
    pressure: {
      ...common,
      name: "Pressure loss in the beads",
      value: pressureLoss,
      unit: "kPa",
      formula: "(150 × m × u × (1 − e)^2 / (d^2 × e^3) + 1.75 × r × u^2 × (1 − e) / (d × e^3)) × h / 1000",
      words: "slow-flow drag and fast-flow drag of a bed of spheres, times its depth; hoses and valves come on top",
      inputs: [
        {
          symbol: "m",
          name: "Viscosity of the water",
          value: viscosity(bed.temperature ?? DEFAULT_TEMPERATURE),
          unit: "Pa·s",
          from: `water at ${bed.temperature ?? DEFAULT_TEMPERATURE} °C`,
        },
        { symbol: "u", name: "Speed through the empty bed", value: velocity, unit: "m/s", from: "flow and diameter" },
        {
          symbol: "e",
          name: "Voids between the beads",
          value: VOID_FRACTION,
          unit: "",
          from: "planning assumption",
          assumption: true,
        },
        {
          symbol: "d",
          name: "Bead diameter",
          value: 0.65e-3,
          unit: "m",
          from: "planning assumption",
          assumption: true,
        },
        { symbol: "r", name: "Density of water", value: 998, unit: "kg/m³", from: "handbook value" },
        { symbol: "h", name: "Depth of the bed", value: depth, unit: "m", from: "resin volume and diameter" },
      ],
      source: "Ergun 1952",
    },
  });
}
