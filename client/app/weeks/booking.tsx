import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Booking", async () => (await import("../../features/weeks/places")).BookingPlace, WEEKS_NEEDS);
