export { RackScreen as default } from "../features/run/RackScreen";
