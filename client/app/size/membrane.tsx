import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("When RO pays", async () => (await import("../../features/size/places")).PaysScreen, SIZE_NEEDS);
