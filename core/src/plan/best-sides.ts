import { succeed, type Result } from "../result";
import type { OptionFigures } from "./figures";
import { hasMembrane } from "./options";
import { size, type SizeInput } from "./size";

/** The cheapest ways to do a work: with resin alone, and behind a membrane; one that can't be done is absent. */
export interface BestSides {
  readonly alone?: OptionFigures;
  readonly membrane?: OptionFigures;
}

/**
 * The best option without a membrane against the best one with it, by money a year: what "RO saves" means wherever it is
 * said.
 *
 * @returns a fault for a figure outside its range or no demand at all
 * @example bestSides(work).value.alone!.cost.total - bestSides(work).value.membrane!.cost.total // what RO saves a year
 */
export function bestSides(work: SizeInput): Result<BestSides> {
  const sized = size({ ...work, priority: "money" });
  if (!sized.ok) return sized;
  const feasible = sized.value.options.filter((option) => option.feasible);
  const alone = feasible.find(({ spec }) => spec.before === "nothing");
  const membrane = feasible.find(({ spec }) => hasMembrane(spec.before));
  return succeed({ ...(alone ? { alone } : {}), ...(membrane ? { membrane } : {}) });
}
