import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Train", async () => (await import("../../features/setup/places")).TrainPlace, RACK_NEEDS);
