import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Work to come", async () => (await import("../../features/weeks/places")).WorkScreen, WEEKS_NEEDS);
