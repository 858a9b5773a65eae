import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Reminders by mail",
  async () => (await import("../../features/weeks/places")).RemindersScreen,
  WEEKS_NEEDS,
);
