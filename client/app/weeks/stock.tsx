import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Stock", async () => (await import("../../features/weeks/places")).StockScreen, WEEKS_NEEDS);
