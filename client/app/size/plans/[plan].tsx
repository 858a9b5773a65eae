import { SIZE_NEEDS } from "../../../data/needs";
import { place } from "../../../ui/place";

export default place("Plan", async () => (await import("../../../features/size/places")).PlansScreen, SIZE_NEEDS);
