import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Bag", async () => (await import("../../features/weeks/places")).BagPlace, WEEKS_NEEDS);
