export { LogPlace as default } from "../../features/run/LogPlace";
