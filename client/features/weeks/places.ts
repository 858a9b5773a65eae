/** Every place of the weeks in one piece, fetched when the first of them is opened. */
export { WeeksScreen } from "./WeeksScreen";
export { BookingPlace, DayOffPlace, UsualWeekPlace } from "./WorkForms";
export { WorkScreen } from "./WorkScreen";
export { BagPlace, DisposalPlace } from "./StockForms";
export { StockScreen } from "./StockScreen";
export { UpkeepScreen } from "./UpkeepScreen";
export { PressurePlace } from "./PressureForm";
export { ServicePlace } from "./ServiceForm";
export { RemindersScreen } from "./RemindersScreen";
export { LabelScreen } from "./LabelScreen";
