import { SETUP_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Charge", async () => (await import("../../features/setup/places")).ChargePlace, SETUP_NEEDS);
