import { SIZE_NEEDS } from "../../../data/needs";
import { place } from "../../../ui/place";

export default place("Plans", async () => (await import("../../../features/size/places")).PlansScreen, SIZE_NEEDS);
