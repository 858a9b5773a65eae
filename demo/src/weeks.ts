import {
  addDays,
  weekdayOf,
  type Appointment,
  type Bag,
  type Booking,
  type Charge,
  type DayOff,
  type Disposal,
  type PressureCheck,
  type Service,
  type UsualWeek,
} from "@winter-bead/core";
import { Chance } from "./chance";

const DAY = 86_400_000;
const HOUR = 3_600_000;

export interface WeekIds {
  readonly nextId: () => string;
  readonly rigIds: ReadonlyMap<string, string>;
}

export interface DemoWeeks {
  readonly bags: readonly Bag[];
  /** Every charge, the newest of them with the bag it came from. */
  readonly charges: readonly Charge[];
  readonly bookings: readonly Booking[];
  readonly usualWeeks: readonly UsualWeek[];
  readonly daysOff: readonly DayOff[];
  readonly services: readonly Service[];
  readonly pressureChecks: readonly PressureCheck[];
  readonly disposals: readonly Disposal[];
  readonly appointments: readonly Appointment[];
}

/** Rounds of the van in Vellin Quay, all invented. */
const ROUNDS = [
  { name: "Saltmarsh Row, even side", jobs: 3 },
  { name: "Ropewalk, 2 to 12", jobs: 4 },
  { name: "Lantern Steps", jobs: 2 },
  { name: "Old Customs House", jobs: 1, jobName: "first clean", litresEach: 105 },
  { name: "Netmaker Lane", jobs: 3 },
  { name: "Gull Terrace", jobs: 2 },
  { name: "School by the quay", jobs: 1, jobName: "conservatory", litresEach: 90 },
] as const;
const BOOKED_DAYS = 24;
const WORKED = [0.95, 0.95, 0.9, 0.95, 0.8, 0.1, 0];

function tellBookings(chance: Chance, rigId: string, nextId: () => string, today: string): readonly Booking[] {
  return Array.from({ length: BOOKED_DAYS }, (_, i) => addDays(today, i + 1)).flatMap((on): Booking[] => {
    if (!chance.happens(WORKED[weekdayOf(on)]!)) return [];
    const first = chance.whole(0, ROUNDS.length - 1);
    const rounds = Array.from({ length: chance.whole(1, 2) }, (_, i) => ROUNDS[(first + 2 * i) % ROUNDS.length]!);
    return rounds.map(({ name, jobs, ...kind }) => ({
      ...{ id: nextId(), rigId, on, name },
      booked: { by: "jobs", jobs, ...kind },
    }));
  });
}

const newest = (charges: readonly Charge[], rigId: string) =>
  charges.filter((each) => each.rigId === rigId && each.ended === undefined).pop()!;

/** What was serviced when. */
function tellServices(
  { van, bay, fish }: { readonly van: string; readonly bay: string; readonly fish: string },
  nextId: () => string,
  at: (daysAgo: number) => string,
): readonly Service[] {
  const service = (rigId: string, part: Service["part"], days: number, more: Partial<Service> = {}): Service => ({
    ...{ id: nextId(), rigId, part, at: at(days), ...more },
  });
  return [
    service(van, "sediment", 171),
    service(van, "strainer", 40),
    service(bay, "sediment", 95),
    service(bay, "carbon", 110),
    service(bay, "strainer", 84),
    service(fish, "sediment", 120),
    service(fish, "carbon", 100, { chlorineGrams: 40 }),
    service(fish, "membrane", 150),
    service(fish, "strainer", 60),
  ];
}

/** The weeks around today: what is booked, what lies on the shelf, and what was serviced when. */
export function tellWeeks(
  { nextId, rigIds }: WeekIds,
  charges: readonly Charge[],
  seed: number,
  now: number,
): DemoWeeks {
  const chance = new Chance(seed);
  const [van, bay, fish] = ["Van", "Bay 2", "Quarantine"].map((name) => rigIds.get(name)!) as [string, string, string];
  const today = new Date(now).toISOString().slice(0, 10);
  const ago = (days: number) => new Date(now - days * DAY).toISOString().slice(0, 10);
  const [vanCharge, fishCharge] = [newest(charges, van), newest(charges, fish)];
  const filledOn = (charge: Charge) => charge.filledAt.slice(0, 10);
  const money = { currency: "EUR" };
  const sack: Bag = {
    ...{
      id: nextId(),
      name: "Grey sack",
      form: "loose",
      grade: "virgin",
      litres: 25,
      lot: "VQ-118",
      price: 210,
      ...money,
    },
    ...{ madeOn: addDays(filledOn(vanCharge), -70), boughtOn: addDays(filledOn(vanCharge), -12), packing: "foil" },
    ...{ openedOn: filledOn(vanCharge), closed: "rolled-or-zip", warm: false, place: "Workshop shelf" },
  };
  const sealed: Bag = {
    ...{ id: nextId(), name: "Grey sack, sealed", form: "loose", grade: "virgin", litres: 25, price: 212, ...money },
    ...{ boughtOn: ago(20), packing: "foil", warm: false, place: "Workshop shelf" },
  };
  const inVan: Bag = {
    ...{
      id: nextId(),
      name: "Green sack",
      form: "loose",
      grade: "dyed",
      litres: 20,
      lot: "VQ-067",
      price: 178,
      ...money,
    },
    ...{ madeOn: ago(275), boughtOn: ago(262), openedOn: ago(243), packing: "foil", closed: "rolled-or-zip" },
    ...{ warm: true, place: "In the van", counted: { on: ago(30), litres: 13 } },
  };
  const pail: Bag = {
    ...{ id: nextId(), name: "Fish room pail", form: "loose", grade: "virgin", litres: 5, price: 56, ...money },
    ...{ madeOn: addDays(filledOn(fishCharge), -40), boughtOn: addDays(filledOn(fishCharge), -14), packing: "pail" },
    ...{ openedOn: filledOn(fishCharge), warm: false, place: "Fish room" },
  };
  const from = new Map([
    [vanCharge.id, { bagId: sack.id, litres: vanCharge.resinLitres }],
    [fishCharge.id, { bagId: pail.id, litres: fishCharge.resinLitres }],
  ]);
  const told = charges.map((charge): Charge => {
    const portion = from.get(charge.id);
    const minutes = charge.ended === undefined && charge.rigId === bay ? undefined : 15 + 5 * chance.whole(0, 4);
    return { ...charge, ...(portion ? { from: [portion] } : {}), ...(minutes === undefined ? {} : { minutes }) };
  });
  const at = (days: number) => new Date(now - days * DAY - 2 * HOUR).toISOString();
  return {
    bags: [sack, sealed, inVan, pail],
    charges: told,
    bookings: tellBookings(chance, van, nextId, today),
    usualWeeks: [
      {
        ...{ id: nextId(), rigId: bay, name: "All year", from: ago(140) },
        jobs: { monday: 3, tuesday: 3, wednesday: 3, thursday: 3, friday: 4, saturday: 2, sunday: 0 },
      },
      {
        ...{ id: nextId(), rigId: fish, from: ago(140) },
        jobs: { monday: 1, tuesday: 0, wednesday: 1, thursday: 0, friday: 1, saturday: 0, sunday: 0 },
      },
    ],
    daysOff: [{ id: nextId(), from: addDays(today, 27), until: addDays(today, 30), name: "Quay fair" }],
    services: tellServices({ van, bay, fish }, nextId, at),
    pressureChecks: [
      { id: nextId(), rigId: bay, at: at(60), before: 330, behind: 318 },
      { id: nextId(), rigId: bay, at: at(9), before: 325, behind: 296, note: "Brush at full flow" },
    ],
    disposals: [{ id: nextId(), on: ago(34), litres: 60, to: "Recycling yard of Vellin Quay, bagged, as they asked" }],
    appointments: [
      {
        ...{ id: nextId(), task: "strainer", rigId: bay, on: addDays(today, 6), answer: "accepted", answeredAt: at(1) },
        minutes: 5,
      },
    ],
  };
}
