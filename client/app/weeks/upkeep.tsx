import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Upkeep", async () => (await import("../../features/weeks/places")).UpkeepScreen, WEEKS_NEEDS);
