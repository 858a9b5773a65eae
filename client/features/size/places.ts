/** Every place of sizing but the first in one piece, fetched when one of them is opened. */
export { VesselScreen } from "./VesselScreen";
export { PaysScreen } from "./PaysScreen";
export { ClaimsScreen } from "./ClaimsScreen";
export { HabitsScreen } from "./HabitsScreen";
export { PricesScreen } from "./PricesScreen";
export { PlansScreen } from "./PlansScreen";
