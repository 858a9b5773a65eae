/** Every place of the setup in one piece, fetched when the first of them is opened. */
export { SetupScreen } from "./SetupScreen";
export { TrainPlace } from "./TrainScreen";
export { ChargePlace, MeterPlace, RigPlace, SitePlace, TapPlace, VesselPlace } from "./SetupPlaces";
