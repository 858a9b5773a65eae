import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Visit", async () => (await import("../../features/history/places")).VisitCorrection, RACK_NEEDS);
