import { REFILL_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Steps of a refill",
  async () => (await import("../../features/refill/places")).WorkPlace,
  REFILL_NEEDS,
);
