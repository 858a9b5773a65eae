import { asOfNow, chargesAsOfNow, countedOf } from "../run/as-of-now";
import type { OwnerBelief } from "../belief/owner";
import { addDays } from "../dates/calendar";
import type { DepletionAnswer } from "../dates/futures";
import type { Id } from "../descriptor/identity";
import type { FeedTest } from "../feed/feed-test.record";
import type { Tap } from "../feed/tap.record";
import type { MembraneCheck, SeenBeside } from "../membrane/membrane-check.record";
import { FLOW_LOST } from "../membrane/trend";
import { PASSAGE_UP } from "../membrane/wear";
import { DEFAULT_PRICES, lateness, type Prices } from "../plan/prices";
import type { PriceList } from "../plan/price-list.record";
import type { Charge } from "../resin/charge.record";
import { PACKING_FACTORS } from "../resin/storage";
import type { Arrangement } from "../rig/arrangement.record";
import type { Rig } from "../rig/rig.record";
import { Trains } from "../rig/trains";
import type { Visit } from "../rig/visit.record";
import { rigLedger } from "../run/charge-ledger";
import { lessonsOf } from "../run/lessons";
import { knownWork } from "../run/known-work";
import { membraneTrend } from "../run/membrane-history";
import { time } from "../run/readings";
import type { StandingInput, WorkedStanding } from "../run/standing";
import { standingDates } from "../run/standing-dates";
import { lastBed, leadOf, workTrain } from "../run/train";
import type { Bag } from "../stock/bag.record";
import type { Disposal } from "../stock/disposal.record";
import { ordersFor, type Order } from "../stock/orders";
import { fitting, refillFrom, spentWaiting, stockOf, storedAs, type BagInStock } from "../stock/stock";
import { meterChecks, upkeepOf, type Due, type Seen } from "../upkeep/due";
import type { PressureCheck } from "../upkeep/pressure-check.record";
import type { Service } from "../upkeep/service.record";
import type { Vessel, VesselKind } from "../vessel/vessel.record";
import type { Meter } from "../water/meter.record";
import type { WaterReport } from "../water/water-report.record";
import type { BookedDay, WorkBook } from "../work/booked-work";
import type { Appointment } from "./appointment.record";
import type { Filling } from "../run/fresh-charge";
import { DAYS_AHEAD, type Forecast, type Lead, type WhatIf } from "./forecast";
import { refillMinutes, type RefillMinutes } from "./habits-of-answering";
import { missedAppointments, openAppointments } from "./open-appointments";
import { proposeWeeks, type VesselWork, type WeeksPlan } from "./propose";

/** Everything a crew keeps that the weeks to come hang on. */
export interface CrewRecords extends WorkBook {
  readonly rigs: readonly Rig[];
  readonly vessels: readonly Vessel[];
  readonly arrangements: readonly Arrangement[];
  readonly taps: readonly Tap[];
  readonly meters: readonly Meter[];
  readonly charges: readonly Charge[];
  readonly visits: readonly Visit[];
  readonly feedTests: readonly FeedTest[];
  readonly reports: readonly WaterReport[];
  readonly membraneChecks: readonly MembraneCheck[];
  readonly bags: readonly Bag[];
  readonly disposals: readonly Disposal[];
  readonly services: readonly Service[];
  readonly pressureChecks: readonly PressureCheck[];
  readonly appointments: readonly Appointment[];
  readonly priceLists: readonly PriceList[];
}

export interface WeeksQuestion {
  /** Milliseconds since 1970. */
  readonly now: number;
  /** The ISO date of an instant where the crew works. */
  readonly dateOf: (milliseconds: number) => string;
  readonly days?: number;
  readonly whatIf?: WhatIf;
}

/** One rig in the weeks to come. */
export interface RigAhead {
  readonly rigId: Id;
  readonly kind: VesselKind;
  /** Of a train: the vessel that is emptied next, when it is likely to be spent, and who leads then. */
  readonly rotation?: { readonly lead: string; readonly next: string; readonly dates?: DepletionAnswer };
  /** As it comes with what is accepted and proposed, and with nothing done. */
  readonly planned: Forecast;
  readonly untouched: Forecast;
  readonly dates?: DepletionAnswer;
  /** Latest day to order for it: the early date less a delivery. */
  readonly orderBy?: string;
  readonly filling: Filling;
  readonly minutes: RefillMinutes;
  /** L a week to be expected. */
  readonly week: number;
}

export interface WeeksAhead {
  readonly today: string;
  readonly rigs: readonly RigAhead[];
  /** Rigs of which nothing can be foretold, with the reason. */
  readonly silent: readonly { readonly rigId: Id; readonly because: string }[];
  readonly plan: Omit<WeeksPlan, "with" | "without" | "declined"> & { readonly declined: readonly number[] };
  readonly dues: readonly Due[];
  readonly missed: readonly Appointment[];
  readonly stock: readonly BagInStock[];
  readonly spent: number;
  readonly orders: readonly Order[];
  readonly prices: Prices;
  readonly currency: string;
}

const byId = <T extends { readonly id: Id }>(records: readonly T[]): ReadonlyMap<Id, T> =>
  new Map(records.map((record) => [record.id, record]));

/** The crew's newest price list, else the usual figures. */
function pricesOf(lists: readonly PriceList[]): { readonly prices: Prices; readonly currency: string } {
  const newest = lists.reduce<PriceList | undefined>(
    (last, each) => (last && last.setOn > each.setOn ? last : each),
    undefined,
  );
  return newest ? { prices: newest.prices, currency: newest.currency } : { prices: DEFAULT_PRICES, currency: "EUR" };
}

/** What usually goes into a vessel: as the last charge, to its usual fill. */
function usualFilling(vessel: Vessel, last: Charge | undefined): Filling {
  return {
    grade: last?.grade ?? "virgin",
    resinLitres: vessel.grossVolume * vessel.fillFraction,
    packing: last && PACKING_FACTORS[last.packing] === 1 ? last.packing : "settled",
  };
}

/** mg/L behind the carbon from which it lets through: what a strip shows first. */
const PASSED_FROM = 0.1;

/** What was seen of a rig that makes its parts due. */
function seenOf(records: CrewRecords, input: StandingInput, week: number): Seen {
  const { rig, dateOf } = input;
  const { water } = rigLedger(input);
  const chlorine = records.reports
    .filter((report) => report.tapId === rig.tapId && report.values.chloramine !== undefined)
    .sort((a, b) => (a.sampledOn < b.sampledOn ? 1 : -1))[0]?.values.chloramine;
  const checks = records.membraneChecks.filter((check) => check.rigId === rig.id);
  const worn = membraneTrend(checks, input.meters).points.filter(
    ({ state }) => (state.flowShare ?? 1) <= FLOW_LOST || (state.passageRatio ?? 1) >= PASSAGE_UP,
  );
  const lastSeen = (signs: readonly (keyof SeenBeside)[], more: readonly { readonly at: string }[] = []) =>
    [...checks.filter(({ seen }) => signs.some((sign) => seen?.[sign])), ...more]
      .map(({ at }) => dateOf(time(at)))
      .sort()
      .pop();
  const passed = records.pressureChecks.filter(
    (check) => check.rigId === rig.id && (check.chlorine ?? 0) >= PASSED_FROM,
  );
  const gauges = records.pressureChecks
    .filter(({ rigId, before, behind }) => rigId === rig.id && before !== undefined && behind !== undefined)
    .reduce<PressureCheck | undefined>((last, each) => (last && last.at >= each.at ? last : each), undefined);
  return {
    ...(chlorine === undefined ? {} : { chlorine }),
    ...(gauges ? { drop: { on: dateOf(time(gauges.at)), kPa: gauges.before! - gauges.behind! } } : {}),
    litresSince: (on) => water.reduce((sum, { at, litres }) => sum + (dateOf(at) > on ? litres : 0), 0),
    litresPerWeek: week,
    pressureFellOn: lastSeen(["pressure-falls-running", "sediment-old"]),
    chlorinePassedOn: lastSeen(["chlorine-behind-carbon", "carbon-old"], passed),
    membraneWornOn: worn.map(({ at }) => dateOf(at)).pop(),
  };
}

interface Asked extends StandingInput {
  readonly bookings: readonly BookedDay[];
}

interface Standing {
  /** The first vessel of a train. */
  readonly lead?: Lead;
  readonly input: Asked;
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
}

/** A rig's standing with its booked work, or why there is none. */
function standings(records: CrewRecords, { now, dateOf }: WeeksQuestion) {
  const [vessels, taps, meters] = [byId(records.vessels), byId(records.taps), byId(records.meters)];
  const today = dateOf(now);
  const visits = [...records.visits].sort((a, b) => time(a.at) - time(b.at));
  const charges = [...records.charges].sort((a, b) => time(a.filledAt) - time(b.filledAt));
  const trains = new Trains(records.arrangements);
  const inputs = records.rigs
    .filter(({ retiredOn }) => retiredOn === undefined)
    .flatMap((rig): Asked[] => {
      const linked = trains.linkedTo(rig.id);
      const standing = trains.at(rig.id, now).flatMap(({ vesselId }) => vessels.get(vesselId) ?? []);
      const vessel = standing[standing.length - 1];
      if (!vessel) return [];
      const { feedTests, reports, arrangements } = records;
      const facts = {
        ...{ rig, vessel, taps, meters, feedTests, reports, now, today, dateOf },
        train: { rigs: records.rigs.filter(({ id }) => linked.has(id)), vessels: records.vessels, arrangements },
        visits: visits.filter((visit) => linked.has(visit.rigId)),
        charges: charges.filter((charge) => linked.has(charge.rigId)),
      };
      return [{ ...facts, bookings: knownWork(facts, records) }];
    });
  const lessons = inputs.flatMap((input) => lessonsOf(input));
  const found: Standing[] = [];
  const silent: { rigId: Id; because: string }[] = [];
  for (const input of inputs) {
    const train = workTrain(input, lessons);
    const last = train.ok ? lastBed(train.value) : train;
    if (!last.ok) silent.push({ rigId: input.rig.id, because: last.fault.message });
    else if (last.value.worked.standing.feedMeetsLimit && !last.value.worked.mark)
      silent.push({ rigId: input.rig.id, because: "The feed itself meets the limit: a meter shows no end." });
    else {
      const { vessel, worked, owner } = last.value;
      const first = train.ok ? leadOf(train.value.beds) : undefined;
      const lead = first && { vessel: first.vessel, worked: first.worked };
      found.push({ input: { ...input, vessel }, worked, owner, ...(lead ? { lead } : {}) });
    }
  }
  return { inputs, found, silent, today };
}

/** What a rotation does, and when it is likely to be asked for. */
function rotationOf({ vessel, worked }: Lead, { input }: Standing): NonNullable<RigAhead["rotation"]> {
  const { train, rig, now, bookings } = input;
  const second = new Trains(train?.arrangements ?? []).at(rig.id, now)[1];
  const dates = standingDates(worked, bookings);
  return {
    lead: vessel.name,
    next: train?.vessels.find(({ id }) => id === second?.vesselId)?.name ?? input.vessel.name,
    ...(dates.ok ? { dates: dates.value } : {}),
  };
}

/** What is dated ahead counts as a rig's own standing counts it. */
function recordsAsOfNow(all: CrewRecords, now: number): CrewRecords {
  const { visits, feedTests, arrangements, membraneChecks, pressureChecks, services, charges } = all;
  const dated = { visits, feedTests, arrangements, membraneChecks, pressureChecks, services };
  const counted = countedOf(now, Object.values(dated), charges);
  return {
    ...all,
    visits: asOfNow(visits, now, counted),
    feedTests: asOfNow(feedTests, now, counted),
    arrangements: asOfNow(arrangements, now, counted),
    membraneChecks: asOfNow(membraneChecks, now, counted),
    pressureChecks: asOfNow(pressureChecks, now, counted),
    services: asOfNow(services, now, counted),
    charges: chargesAsOfNow(charges, now, counted),
  };
}

/**
 * The weeks to come of a crew: each vessel day by day, what is to be done on which day and why, the stock and what to order.
 *
 * @param all everything the crew keeps, nothing taken back among it
 */
export function weeksAhead(all: CrewRecords, question: WeeksQuestion): WeeksAhead {
  const records = recordsAsOfNow(all, question.now);
  const { dateOf, days = DAYS_AHEAD, whatIf = {} } = question;
  const { inputs, found, silent, today } = standings(records, question);
  const { prices, currency } = pricesOf(records.priceLists);
  const { bags, charges, disposals, services } = records;
  const appointments = openAppointments(records.appointments, records);
  const stockFacts = { bags, charges, today, dateOf };
  const stock = stockOf(stockFacts);
  const works = found.map(({ input: { rig, vessel, charges: own, bookings }, worked, owner, lead }): VesselWork => {
    // What is filled next: of a train its lead.
    const emptied = lead?.vessel ?? vessel;
    const filling = usualFilling(
      emptied,
      [...own].reverse().find(({ vesselId }) => vesselId === emptied.id),
    );
    const stored = storedAs(refillFrom(fitting(stock, emptied), filling.grade, filling.resinLitres).portions, stock);
    return {
      ...{ rig, vessel, worked, owner, whatIf, appointments, ...(lead ? { lead } : {}) },
      work: bookings.filter(({ on }) => on >= today),
      filling: { ...filling, ...(stored ? { stored } : {}) },
      minutes: refillMinutes(own, prices.minutesPerRefill),
    };
  });
  const week = (rigId: Id) =>
    found
      .find(({ input }) => input.rig.id === rigId)
      ?.worked.standing.use.weekdays.reduce((sum, each) => sum + each, 0) ?? 0;
  const dues = [
    ...inputs.flatMap((input) =>
      upkeepOf({
        ...{ rig: input.rig, services, charges: input.charges, today, dateOf },
        seen: seenOf(records, input, week(input.rig.id)),
      }),
    ),
    ...meterChecks(records.meters),
  ];
  const plan = proposeWeeks({ today, days, vessels: works, dues, appointments, prices });
  const { deliveryDays } = lateness(prices);
  const wanted = plan.days.flatMap(({ tasks }) =>
    tasks
      .filter(({ task }) => task === "refill")
      .map(({ rigId, on, filling }) => ({
        ...{ rigId: rigId!, on, grade: filling!.grade, litres: filling!.resinLitres },
        kind: works.find(({ rig }) => rig.id === rigId)!.vessel.kind,
      })),
  );
  return {
    today,
    rigs: works.map((work, i): RigAhead => {
      const { rig, vessel, filling, minutes } = work;
      const dates = standingDates(found[i]!.worked, found[i]!.input.bookings);
      return {
        rigId: rig.id,
        kind: vessel.kind,
        ...(work.lead ? { rotation: rotationOf(work.lead, found[i]!) } : {}),
        planned: plan.with.get(rig.id)!,
        untouched: plan.without.get(rig.id)!,
        ...(dates.ok ? { dates: dates.value, orderBy: addDays(dates.value.early, -deliveryDays) } : {}),
        filling,
        minutes,
        week: week(rig.id),
      };
    }),
    silent,
    plan: { days: plan.days, declined: [...plan.declined] },
    dues,
    missed: missedAppointments(appointments, today),
    stock,
    spent: spentWaiting(stockFacts, disposals),
    orders: ordersFor(wanted, stock, deliveryDays),
    prices,
    currency,
  };
}
