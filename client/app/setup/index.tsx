import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Set up", async () => (await import("../../features/setup/places")).SetupScreen, SETUP_NEEDS);
