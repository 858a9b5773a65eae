import { SIZE_NEEDS } from "../../../data/needs";
import { place } from "../../../ui/place";

export default place("Plan", async () => (await import("../../../features/plan/places")).PlansScreen, SIZE_NEEDS);
