import { date, group, number, optional, reference, text } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";

const jobs = (day: string) => number({ name: `The jobs of ${day}`, unit: "", from: 0, to: 1_000 }, { label: day });

/** Jobs of a rig by weekday, over a season. */
export const USUAL_WEEK = kind({
  name: "usual-weeks",
  table: "usual_week",
  one: "usual week",
  many: "usual weeks",
  fields: {
    rigId: reference("rigs", "The rig"),
    name: optional(text("The season's name", { most: 40, label: "Season" })),
    from: date("The first day", { label: "From" }),
    until: optional(date("The last day", { label: "Until" })),
    jobs: group("The jobs by weekday", {
      monday: jobs("Monday"),
      tuesday: jobs("Tuesday"),
      wednesday: jobs("Wednesday"),
      thursday: jobs("Thursday"),
      friday: jobs("Friday"),
      saturday: jobs("Saturday"),
      sunday: jobs("Sunday"),
    }),
  },
  rules: [
    {
      path: "until",
      fault: "The last day cannot come before the first.",
      holds: (it) => it.until === undefined || it.until >= it.from,
    },
  ],
  sample: {
    rigId: sampleId("rigs"),
    name: "Winter",
    from: "2026-11-01",
    until: "2027-03-31",
    jobs: { monday: 4, tuesday: 4, wednesday: 3, thursday: 4, friday: 2, saturday: 0, sunday: 0 },
  },
});

export interface UsualWeek extends RecordOf<typeof USUAL_WEEK> {}
