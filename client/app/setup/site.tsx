import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Site", async () => (await import("../../features/setup/places")).SitePlace, SETUP_NEEDS);
