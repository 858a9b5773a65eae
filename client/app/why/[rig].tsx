import { RACK_NEEDS } from "../../data/needs";
import { place } from "../../ui/place";

export default place("Look back", async () => (await import("../../features/history/WhyScreen")).WhyScreen, RACK_NEEDS);
