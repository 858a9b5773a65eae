export { RigPlace as default } from "../../features/vessels/SetupPlaces";
