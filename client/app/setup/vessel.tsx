import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Vessel", async () => (await import("../../features/setup/places")).VesselPlace, SETUP_NEEDS);
