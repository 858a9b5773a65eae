import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("History", async () => (await import("../../features/history/places")).HistoryScreen, RACK_NEEDS);
