/**
 * The refill as hands do it, step by step, and what mistakes at it cost. A barrel of its own, fetched with the guide.
 */
export * from "./refill/amounts";
export * from "./refill/cautions";
export * from "./refill/guide";
export * from "./refill/mistakes";
export * from "./refill/over-the-api";
export * from "./refill/pool";
export * from "./refill/step";
export * from "./refill/troubles";
export * from "./refill/ways";
export * from "./refill/work";
export { fillWords } from "./refill/vessel-steps";
