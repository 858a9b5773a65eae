import { WATER_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Report", async () => (await import("../../features/water/places")).ReportPlace, WATER_NEEDS);
