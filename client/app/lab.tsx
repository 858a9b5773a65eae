import { WATER_NEEDS } from "../data/needs";
import { place } from "../ui/place";

export default place("Lab", async () => (await import("../features/lab/LabScreen")).LabScreen, WATER_NEEDS);
