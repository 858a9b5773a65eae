import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Membrane", async () => (await import("../../features/water/places")).MembranePlace, WATER_NEEDS);
