import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Pressure across the sediment cartridge",
  async () => (await import("../../features/weeks/places")).PressurePlace,
  WEEKS_NEEDS,
);
