import type { z } from "zod";
import { optionSpec, planFigures, sizeRequest } from "./size";

/** What calculations define, for the descriptors that name it. */
export const CALCULATED: Readonly<Record<string, z.ZodType>> = {
  work: sizeRequest,
  option: optionSpec,
  "plan-figures": planFigures,
};
