import { SHAPES } from "./from-descriptor";
import { optionSpec, planFigures, sizeRequest } from "./size";

/** What calculations define, for the descriptors that name it. */
SHAPES.set("work", sizeRequest);
SHAPES.set("option", optionSpec);
SHAPES.set("plan-figures", planFigures);
