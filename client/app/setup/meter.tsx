export { MeterPlace as default } from "../../features/vessels/SetupPlaces";
