export { WhyScreen as default } from "../../features/history/WhyScreen";
