import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Vessel", async () => (await import("../../features/size/places")).VesselScreen, SIZE_NEEDS);
