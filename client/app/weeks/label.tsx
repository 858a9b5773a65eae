import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Label", async () => (await import("../../features/weeks/places")).LabelScreen, WEEKS_NEEDS);
