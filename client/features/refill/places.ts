/** The guide and the practice in one piece, fetched when the first of them is opened. */
export { RefillPlace } from "./RefillScreen";
export { PracticePlace } from "./PracticeScreen";
export { WorkPlace } from "./WorkScreen";
