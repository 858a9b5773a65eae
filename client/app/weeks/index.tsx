import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Weeks", async () => (await import("../../features/weeks/places")).WeeksScreen, WEEKS_NEEDS);
