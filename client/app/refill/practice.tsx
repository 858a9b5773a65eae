import { REFILL_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Practice",
  async () => (await import("../../features/refill/places")).PracticePlace,
  REFILL_NEEDS,
);
