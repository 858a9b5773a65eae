import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "First day",
  async () => (await import("../../features/start/FirstDayScreen")).FirstDayScreen,
  SETUP_NEEDS,
);
