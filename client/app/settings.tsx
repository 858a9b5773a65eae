import { place } from "../ui/place";

export default place("Settings", async () => (await import("../features/settings/SettingsScreen")).SettingsScreen);
