import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Habits", async () => (await import("../../features/size/places")).HabitsScreen, SIZE_NEEDS);
