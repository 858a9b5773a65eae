export { TapPlace as default } from "../../features/vessels/SetupPlaces";
