export * from "./fields";
export * from "./compute-shapes";
export * from "./compute";
export * from "./records";
export * from "./problem";
export * from "./supplier";
export * from "./openapi";
