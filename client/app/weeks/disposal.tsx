import { WEEKS_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place(
  "Spent resin",
  async () => (await import("../../features/weeks/places")).DisposalPlace,
  WEEKS_NEEDS,
);
