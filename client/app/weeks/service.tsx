import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Upkeep of a part",
  async () => (await import("../../features/weeks/places")).ServicePlace,
  WEEKS_NEEDS,
);
