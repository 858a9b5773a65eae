import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Rig", async () => (await import("../../features/setup/places")).RigPlace, SETUP_NEEDS);
