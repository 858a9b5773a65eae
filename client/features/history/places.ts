/** Every place of the history in one piece, fetched when the first of them is opened. */
export { HistoryScreen } from "./HistoryScreen";
export { ChargeCorrection } from "./ChargeCorrection";
export { VisitCorrection } from "./VisitCorrection";
