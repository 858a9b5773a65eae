import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Charge",
  async () => (await import("../../features/history/places")).ChargeCorrection,
  RACK_NEEDS,
);
