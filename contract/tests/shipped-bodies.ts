import type { RecordKind } from "../src/index";

interface Shipped {
  readonly shape: number;
  readonly body: Readonly<Record<string, unknown>>;
}

const id = "01890000-0000-7000-8000-000000000001";
const at = "2027-03-01T08:10:00.000Z";
const tank = { name: "Tank", kind: "screw-head-tank", grossVolume: 28, diameter: 254, fillFraction: 0.86 };
const water = { reading: { value: 160, scale: "nacl" }, ph: 7.3, alkalinity: 110 };
const three = { low: 1, typical: 2, high: 3 };
const cost = {
  ...{ resin: 60, delivery: 9, labour: 20, water: 8, waste: 0, energy: 0, consumables: 0, purchase: 30 },
  total: 127,
};

/**
 * One body of each shape that was ever shipped, as a phone that was away for long still sends it. Nothing here is ever
 * changed or taken out: a new shape adds its own.
 */
export const SHIPPED: Readonly<Record<RecordKind, readonly Shipped[]>> = {
  sites: [{ shape: 1, body: { name: "Ropewalk yard", note: "Beside the door." } }],
  taps: [
    {
      shape: 1,
      body: { siteId: id, name: "Yard", low: 80, typical: 96, high: 120, scale: "nacl", temperature: 12, ph: 7.2 },
    },
  ],
  meters: [
    { shape: 1, body: { name: "Pocket", scale: 0.64, compensated: false, checkedOn: "2027-02-01" } },
    {
      shape: 1,
      body: { name: "Pen", scale: "442", compensated: true, check: { standard: 1413, shown: 960 }, offset: 1 },
    },
  ],
  vessels: [{ shape: 1, body: { ...tank, marks: { watch: 6, limit: 10, hard: 20, scale: "nacl" } } }],
  rigs: [
    {
      shape: 1,
      body: {
        name: "Van",
        use: "glass",
        tapId: id,
        flow: 3.2,
        stages: [
          { kind: "sediment" },
          { kind: "degasser" },
          { kind: "membrane", rejection: 0.95 },
          { kind: "resin", vesselId: id },
        ],
        jobName: "house",
        litresPerJob: 60,
        meterRollsOverAt: 1e5,
      },
    },
    {
      shape: 2,
      body: {
        ...{ name: "Van", use: "glass", tapId: id, flow: 3.2, jobName: "house", litresPerJob: 60 },
        stages: [
          { id, kind: "sediment", microns: 20 },
          { id: "01890000-0000-7000-8000-000000000002", kind: "carbon", microns: 5, chlorineGrams: 60 },
          { id: "01890000-0000-7000-8000-000000000003", kind: "degasser", hours: 8 },
          { id: "01890000-0000-7000-8000-000000000004", kind: "membrane", rejection: 0.95, ratedFlow: 1.3 },
          { id: "01890000-0000-7000-8000-000000000005", kind: "resin" },
        ],
      },
    },
  ],
  arrangements: [
    { shape: 1, body: { rigId: id, at, did: "rotated", places: [{ stageId: id, vesselId: id }], note: "Evening." } },
  ],
  charges: [
    {
      shape: 1,
      body: {
        ...{ vesselId: id, rigId: id, grade: "virgin", resinLitres: 24, packing: "settled", filledAt: at },
        stored: { container: "rolled-or-zip", months: 6, warm: true },
        startTotal: 100,
        ended: { at: "2027-03-20T08:10:00.000Z", why: "limit" },
      },
    },
    {
      shape: 1,
      body: {
        ...{ vesselId: id, rigId: id, grade: "dyed", resinLitres: 24, packing: "poured", filledAt: at },
        ...{ from: [{ bagId: id, litres: 24 }], minutes: 30 },
      },
    },
  ],
  visits: [
    {
      shape: 1,
      body: {
        ...{ rigId: id, tapId: id, at, water: { by: "total", total: 250, replaced: true } },
        readings: [{ id, point: "output", scale: "442", value: 3, temperature: 11 }],
      },
    },
    { shape: 1, body: { rigId: id, tapId: id, at, water: { by: "jobs", jobs: 2, litresPerJob: 60 }, readings: [] } },
  ],
  "feed-tests": [{ shape: 1, body: { tapId: id, at, meterId: id, value: 104, temperature: 11, note: "After rain." } }],
  "water-reports": [
    {
      shape: 1,
      body: {
        ...{ tapId: id, sampledOn: "2027-02-01", source: "typed", origin: "Laboratory of the harbour" },
        values: { ca: 40, alkalinity: 110, cl: 20, ph: 7.3, silica: 6, chloramine: 0.4, ec25: 320 },
      },
    },
  ],
  "membrane-checks": [
    {
      shape: 1,
      body: {
        ...{ rigId: id, at, scale: "ec", feed: 420, product: 13, temperature: 17, pressure: 400 },
        ...{ permeatePressure: 20, productFlow: 0.12, wasteFlow: 0.36, clean: true, seen: { "sediment-old": false } },
      },
    },
    // Whatever was read is kept.
    { shape: 1, body: { rigId: id, at, pressure: 380, standingPressure: 430, clean: false } },
    { shape: 1, body: { rigId: id, at, clean: false, seen: { "carbon-old": true } } },
  ],
  plans: [
    {
      shape: 1,
      body: {
        ...{ name: "Van", keptAt: at, use: "glass", tapId: id, jobName: "house", currency: "EUR" },
        work: {
          demand: { items: [{ by: "jobs", name: "houses", perWeek: 20, litresEach: 60, quality: "timed" }] },
          ...{ waters: { low: water, typical: water, high: water }, limit: { value: 10, scale: "nacl" } },
          ...{ peakFlow: 3, until: "meter", own: [{ ...tank, emptyWeight: 7.5, own: true }] },
        },
        option: {
          vessel: { ...tank, emptyWeight: 7.5 },
          train: "single",
          before: "nothing",
          grade: "virgin",
          supply: "bag",
        },
        expected: {
          ...{ litres: three, resinLitres: 24, daysBusiest: three, daysQuietest: three, flow: 3, contactSeconds: 480 },
          ...{ bedVolumesPerHour: 7.5, pressureLoss: 4, weight: 40, purchase: 157, refillsPerYear: 11 },
          ...{ minutesPerYear: 110, wastePerYear: 0, cost, costRange: { low: 100, high: 150 }, per1000Litres: 3 },
          ...{ week: three, year: three },
        },
        ...{ rigId: id, inUseSince: at, note: "For the new round." },
      },
    },
  ],
  bags: [
    {
      shape: 1,
      body: {
        ...{ name: "Sack", form: "loose", grade: "virgin", litres: 25, lot: "K1", price: 200, currency: "EUR" },
        ...{
          madeOn: "2027-01-02",
          boughtOn: "2027-01-20",
          openedOn: "2027-02-01",
          packing: "foil",
          closed: "left-open",
        },
        ...{
          warm: false,
          place: "Shelf",
          counted: { on: "2027-02-10", litres: 9 },
          gone: { on: at.slice(0, 10), why: "given" },
        },
      },
    },
  ],
  bookings: [
    {
      shape: 1,
      body: {
        rigId: id,
        on: "2027-03-04",
        booked: { by: "jobs", jobs: 3, jobName: "roof", litresEach: 90 },
        name: "Row",
      },
    },
    { shape: 1, body: { rigId: id, on: "2027-03-05", booked: { by: "litres", litres: 240 }, fromCalendar: "a@b" } },
    { shape: 1, body: { rigId: id, on: "2027-03-06", booked: { by: "off" }, note: "Fair." } },
  ],
  "usual-weeks": [
    {
      shape: 1,
      body: {
        ...{ rigId: id, name: "Winter", from: "2026-11-01", until: "2027-03-31" },
        jobs: { monday: 4, tuesday: 4, wednesday: 3, thursday: 4, friday: 2, saturday: 0, sunday: 0 },
      },
    },
  ],
  "days-off": [{ shape: 1, body: { rigId: id, from: "2026-12-24", until: "2027-01-02", name: "Midwinter" } }],
  disposals: [{ shape: 1, body: { on: "2027-02-20", litres: 48, to: "Recycling yard", note: "Two bags." } }],
  services: [
    { shape: 1, body: { rigId: id, part: "carbon", at, everyMonths: 6, chlorineGrams: 45, note: "Rinsed." } },
    { shape: 1, body: { rigId: id, part: "seals", at } },
  ],
  "refill-steps": [
    {
      shape: 1,
      body: { workId: id, guided: "carbon", rigId: id, step: "look", outcome: "skipped", at, note: "In a hurry." },
    },
    {
      shape: 1,
      body: {
        ...{ workId: id, guided: "refill", rigId: id, vesselId: id, step: "fill", outcome: "done", at, until: at },
        ways: {
          ...{ riser: "first", fill: "pour", drain: "wet", empty: "shake", position: "laid", mount: "alone" },
          ...{ scoop: 0.8, fillTo: 0.85 },
        },
        found: {
          ...{
            parts: 4,
            tools: 8,
            output: { scale: "442", value: 3 },
            total: 1200,
            resinLitres: 11.9,
            grade: "virgin",
          },
          ...{
            pureWater: true,
            newSeals: false,
            look: "clean",
            filledOn: "2027-02-20",
          },
        },
      },
    },
  ],
  "pressure-checks": [
    { shape: 1, body: { rigId: id, at, before: 340, behind: 295, note: "At full flow." } },
    { shape: 1, body: { rigId: id, at, before: 340, standing: 410 } },
    { shape: 1, body: { rigId: id, at, chlorine: 0 } },
  ],
  appointments: [
    {
      shape: 1,
      body: {
        task: "refill",
        rigId: id,
        on: "2027-03-07",
        answer: "accepted",
        answeredAt: at,
        minutes: 25,
        note: "Seals.",
      },
    },
    { shape: 1, body: { task: "meter", meterId: id, on: "2027-03-07", answer: "declined", answeredAt: at } },
  ],
  reminders: [
    {
      shape: 1,
      body: {
        to: "crew@example.org",
        on: true,
        daysBefore: 1,
        quietFrom: 20,
        quietUntil: 7,
        timeZone: "Europe/Berlin",
      },
    },
  ],
  "price-lists": [
    {
      shape: 1,
      body: {
        ...{ setOn: "2027-02-01", currency: "EUR" },
        prices: {
          resin: { virgin: 9, dyed: 9.5, regenerated: 5.5 },
          ...{ bulkShare: 0.8, delivery: 9, vesselPerLitre: 4, vesselBase: 45, membraneUnit: 260, membrane: 70 },
          ...{ membraneYears: 3, prefiltersPerYear: 40, boosterPump: 95, madeWaterTank: 130, aerator: 80 },
          ...{ minutesPerBatch: 6, water: 2.4, waste: 2, power: 0.32, wage: 30, minutesPerRefill: 10, years: 5 },
        },
      },
    },
  ],
};
