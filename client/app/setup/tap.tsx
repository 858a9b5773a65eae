import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Tap", async () => (await import("../../features/setup/places")).TapPlace, SETUP_NEEDS);
