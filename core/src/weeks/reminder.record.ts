import { flag, number, text } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";

const hour = (called: string, label: string) => number({ name: called, unit: "h", from: 0, to: 23 }, { label });

function isTimeZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat("en", { timeZone: name }).resolvedOptions().timeZone !== "";
  } catch {
    return false;
  }
}

/** Where reminders go, and when they keep silent; the newest counts. */
export const REMINDER = kind({
  name: "reminders",
  table: "reminder",
  one: "reminder",
  many: "reminders",
  fields: {
    to: text("The mail address", { label: "Mail address", most: 200, format: "mail" }),
    on: flag("Reminders are sent", { label: "Send reminders" }),
    daysBefore: number({ name: "The days before", unit: "days", from: 0, to: 30 }, { label: "Days before" }),
    /** No mail from this hour of the crew's day until the other. */
    quietFrom: hour("The hour it gets quiet", "Quiet from"),
    quietUntil: hour("The hour it is quiet until", "until"),
    /** IANA name. */
    timeZone: text("The time zone", { label: "Time zone", most: 60 }),
  },
  rules: [
    {
      path: "timeZone",
      fault: "Name a time zone such as Europe/Berlin or UTC.",
      holds: (it) => isTimeZone(it.timeZone),
    },
    {
      path: "quietFrom",
      fault: "Give whole hours, 0 to 23.",
      holds: (it) => Number.isInteger(it.quietFrom) && Number.isInteger(it.quietUntil),
    },
  ],
  sample: {
    to: "crew@vellin-quay.example",
    on: true,
    daysBefore: 1,
    quietFrom: 20,
    quietUntil: 7,
    timeZone: "Europe/Berlin",
  },
});

export interface Reminder extends RecordOf<typeof REMINDER> {}
