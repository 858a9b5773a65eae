import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "A usual week",
  async () => (await import("../../features/weeks/places")).UsualWeekPlace,
  WEEKS_NEEDS,
);
