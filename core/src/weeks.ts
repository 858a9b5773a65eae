/**
 * The weeks to come: what is booked, what runs out when, what is to be done on which day, and the resin for it. A barrel of its
 * own, so that a first page that only shows the rack does not pay for it; the types are in the main one.
 */
export * from "./work/booked-work";
export * from "./stock/bag-worth";
export * from "./stock/stock";
export * from "./stock/bag-size";
export * from "./stock/orders";
export * from "./upkeep/due";
export * from "./weeks/forecast";
export * from "./weeks/habits-of-answering";
export * from "./weeks/open-appointments";
export * from "./weeks/propose";
export { DEFAULT_PRICES, lateness } from "./plan/prices";
export * from "./weeks/weeks-ahead";
export * from "./explain/explain-weeks";
export * from "./upkeep/frost-and-sun";
export * from "./weeks/calendar-events";
