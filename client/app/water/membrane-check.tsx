import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Membrane check",
  async () => (await import("../../features/water/places")).MembraneCheckCorrection,
  WATER_NEEDS,
);
