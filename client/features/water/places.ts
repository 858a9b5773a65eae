/** Every place of the water in one piece, fetched when the first of them is opened. */
export { WaterScreen } from "./WaterScreen";
export { MetersScreen } from "./MetersScreen";
export { MembranePlace, ReportPlace } from "./WaterPlaces";
export { FeedTestCorrection } from "./FeedTestCorrection";
export { MembraneCheckCorrection } from "./MembraneCheckForm";
