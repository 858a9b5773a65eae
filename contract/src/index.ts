export * from "./fields";
export * from "./compute";
export * from "./records";
export * from "./problem";
export * from "./openapi";
