import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Water", async () => (await import("../../features/water/places")).WaterScreen, WATER_NEEDS);
