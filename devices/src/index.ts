export * from "./calendar-service";
export * from "./mailbox";
export * from "./report-service";
