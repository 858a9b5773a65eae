import { SIZE_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Habits", async () => (await import("../../features/plan/places")).HabitsScreen, SIZE_NEEDS);
