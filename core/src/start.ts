/** A first day: a few answers become a rig. A barrel of its own, which only the places that ask them pay for. */
export * from "./start/ageing";
export * from "./start/feeding";
export * from "./start/starting-rig";
export * from "./start/trades";
