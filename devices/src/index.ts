export * from "./report-service";
