import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Meters", async () => (await import("../../features/water/places")).MetersScreen, WATER_NEEDS);
