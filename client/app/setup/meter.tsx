import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Meter", async () => (await import("../../features/setup/places")).MeterPlace, SETUP_NEEDS);
