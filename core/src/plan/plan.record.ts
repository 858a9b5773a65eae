import { currency, instant, note, optional, reference, shape, text } from "../descriptor/field";
import { kind, sampleId, type RecordOf } from "../descriptor/kind";
import { USE } from "../vessel/marks";
import type { OptionSpec } from "./options";
import type { PlanFigures } from "./outcome";
import type { SizeInput } from "./size";

const three = (low: number, typical: number, high: number) => ({ low, typical, high });
const TANK = {
  name: "Tank, 28 L",
  kind: "screw-head-tank",
  grossVolume: 28,
  diameter: 230,
  emptyWeight: 9,
  fillFraction: 0.85,
} as const;
const tapWater = (value: number) => ({
  reading: { value, scale: "nacl" as const },
  ph: 7.3,
  alkalinity: 110,
  silica: 6,
});

/** A choice of vessel, train and resin that was accepted: what was asked, what was chosen and what it was to do. */
export const PLAN = kind({
  name: "plans",
  table: "plan",
  one: "plan",
  many: "plans",
  fields: {
    name: text("The plan's name", { most: 80, label: "Name" }),
    keptAt: instant("The time it was kept", { label: "Kept" }),
    use: USE,
    tapId: reference("taps", "The tap"),
    /** What a job is called, where the work counts jobs. */
    jobName: text("The job's name", { most: 40, label: "A job is called" }),
    work: shape<SizeInput>("The work", "work"),
    option: shape<OptionSpec>("The option", "option"),
    expected: shape<PlanFigures>("What is expected of it", "plan-figures"),
    /** Of every price in it. */
    currency: currency(),
    /** The rig that was built from it, and since when. */
    rigId: optional(reference("rigs", "The rig")),
    inUseSince: optional(instant("The time since which it is in use", { label: "In use since" })),
    note,
  },
  sample: {
    name: "Tank by the tap",
    keptAt: "2027-01-10T09:00:00.000Z",
    use: "paint",
    tapId: sampleId("taps"),
    jobName: "car",
    work: {
      demand: { items: [{ by: "jobs", name: "cars", perWeek: 20, litresEach: 40, quality: "timed" }] },
      waters: { low: tapWater(140), typical: tapWater(160), high: tapWater(190) },
      limit: { value: 10, scale: "nacl" },
      peakFlow: 3,
      until: "meter",
    },
    option: { vessel: TANK, train: "single", before: "nothing", grade: "virgin", supply: "bag" },
    expected: {
      litres: three(2900, 3600, 4300),
      resinLitres: 23.8,
      daysBusiest: three(22, 28, 36),
      daysQuietest: three(30, 39, 52),
      flow: 3,
      contactSeconds: 476,
      bedVolumesPerHour: 7.56,
      pressureLoss: 4.2,
      weight: 41,
      purchase: 157,
      refillsPerYear: 11.5,
      minutesPerYear: 115,
      wastePerYear: 0,
      cost: {
        resin: 2464,
        delivery: 103,
        labour: 57,
        water: 100,
        waste: 0,
        energy: 0,
        consumables: 0,
        purchase: 31,
        total: 2755,
      },
      costRange: { low: 2100, high: 3400 },
      per1000Litres: 66,
      perJob: 2.6,
      week: three(640, 800, 960),
      year: three(33_000, 41_600, 50_000),
    },
    currency: "EUR",
    rigId: sampleId("rigs"),
    inUseSince: "2027-01-11T07:00:00.000Z",
    note: "The left bay.",
  },
});

export interface Plan extends RecordOf<typeof PLAN> {}
