import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Gauges at the cartridges",
  async () => (await import("../../features/weeks/places")).PressurePlace,
  WEEKS_NEEDS,
);
