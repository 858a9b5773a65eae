import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Reading",
  async () => (await import("../../features/water/places")).FeedTestCorrection,
  WATER_NEEDS,
);
