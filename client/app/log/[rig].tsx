import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Log", async () => (await import("../../features/log/LogPlace")).LogPlace, RACK_NEEDS);
