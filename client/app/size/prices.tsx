import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Prices", async () => (await import("../../features/size/places")).PricesScreen, SIZE_NEEDS);
