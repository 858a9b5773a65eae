import { REFILL_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Refill", async () => (await import("../../features/refill/places")).RefillPlace, REFILL_NEEDS);
