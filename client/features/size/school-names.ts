import type { School } from "@winter-bead/core";

export const SCHOOL_NAMES: Readonly<Record<School, string>> = {
  constant: "Trade constant / ppm",
  rating: "Maker's rating, scaled",
  chemistry: "Resin chemistry, your limit",
  history: "Your own past charges",
};
