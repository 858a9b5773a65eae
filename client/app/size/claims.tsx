import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Claims", async () => (await import("../../features/size/places")).ClaimsScreen, SIZE_NEEDS);
