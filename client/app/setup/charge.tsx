export { ChargePlace as default } from "../../features/vessels/SetupPlaces";
