import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Days off", async () => (await import("../../features/weeks/places")).DayOffPlace, WEEKS_NEEDS);
