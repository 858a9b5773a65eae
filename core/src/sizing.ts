/**
 * Choosing vessels and counting their cost, with the workings. A barrel of its own, so that a first page that only shows the
 * rack does not pay for it; the types are in the main one.
 */
export * from "./plan/demand";
export * from "./plan/prices";
export * from "./plan/options";
export * from "./membrane/two-in-a-row";
export * from "./plan/before";
export * from "./plan/cost";
export * from "./plan/standing-in-use";
export * from "./plan/figures";
export * from "./plan/size";
export * from "./plan/best-sides";
export * from "./plan/scenario";
export * from "./plan/crossing";
export * from "./plan/stage-worth";
export * from "./plan/claims";
export * from "./plan/habits";
export * from "./plan/bucket-test";
export * from "./plan/logged-demand";
export * from "./plan/limit-schools";
export * from "./plan/option-schools";
export * from "./plan/alternatives";
export * from "./plan/outcome";
export * from "./explain/explain-plan";
export * from "./explain/explain-ends";
export * from "./explain/explain-comparisons";
