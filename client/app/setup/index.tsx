export { SetupScreen as default } from "../../features/vessels/SetupScreen";
