import {
  addDays,
  compositionAtResin,
  daysBetween,
  describeBed,
  firstPass,
  frontOf,
  GRADE_CAPACITIES,
  knownWork,
  learn,
  lessonsOf,
  MARKS,
  productCurve,
  shareAt,
  unwrap,
  weekdayOf,
  workStanding,
  type Booking,
  type Charge,
  type FrontTable,
  type Meter,
  type Rig,
  type StandingInput,
  type Tap,
  type Vessel,
  type Visit,
} from "../../core/src/index";
import { DEFAULT_PRICES, proposeWeeks, type VesselWork } from "../../core/src/weeks";
import { datesOf } from "../../core/src/dates/futures";
import { standingDays } from "../../core/src/run/standing-dates";
import { Draws } from "../calibration/chance";
import { dateOf, iso } from "../calibration/world";

/** A year of an invented window cleaner: how it went. */
export interface Year {
  bookedDays: number;
  dryDays: number;
  refills: number;
  /** Share of each charge that was thrown away. */
  unused: number;
  dated: number;
  early: number;
  onTheDay: number;
  /** Ends on a day from early to late, both included; and in the middle 80 % of the futures, a day split as they split it. */
  inside: number;
  middle: number;
}

export const emptyYear = (): Year => ({
  ...{ bookedDays: 0, dryDays: 0, refills: 0, unused: 0, dated: 0, early: 0, onTheDay: 0, inside: 0, middle: 0 },
});
export const addedYear = (a: Year, b: Year): Year =>
  Object.fromEntries(Object.entries(a).map(([key, value]) => [key, value + b[key as keyof Year]])) as unknown as Year;

const START = "2027-01-04";
const DAYS = 365;
const BOOKED_AHEAD = 28;
const SEEN_AHEAD = 21;
/** Days into a charge on which its dates are held against the truth. */
const DATED_ON = [4, 9];
const WORKED = [0.95, 0.95, 0.9, 0.95, 0.85, 0.2, 0.02];
const at = (on: string, hour: number) => Date.parse(`${on}T00:00:00Z`) + hour * 3_600_000;

/**
 * How the output is read: as the belief takes a reading (its meter's error, a shape it does not know, eight in a hundred
 * simply wrong), or truer than that.
 */
export type Reads = "as-believed" | "truly";
const LIMIT_PPM = 10;

interface Job {
  readonly on: string;
  readonly jobs: number;
  /** L that it will really take. */
  readonly litres: number;
}

/** One charge as it truly is. */
interface Truth {
  /** meq at which the limit is passed, and at which it would be if nothing went round the beads. */
  readonly whole: number;
  readonly wholeIfTight: number;
  readonly bypass: number;
  used: number;
}

/** Lives one year, followed by the plan or by the meter alone. */
export class Cleaner {
  private readonly draws: Draws;
  private readonly rig: Rig;
  private readonly vessel: Vessel;
  private readonly tap: Tap;
  private readonly meter: Meter = { id: "meter", name: "Pen", scale: "nacl", compensated: true };
  private readonly feed: number;
  private readonly owner: number;
  private readonly front: FrontTable;
  private readonly atLimit: number;
  private readonly promised: number;
  private readonly round: readonly Job[];
  private readonly visits: Visit[] = [];
  private readonly charges: Charge[] = [];
  private register = 0;
  private truth!: Truth;

  constructor(
    seed: number,
    private readonly reads: Reads = "as-believed",
  ) {
    const draws = (this.draws = new Draws(seed));
    const resin = draws.between(9, 24);
    const typical = draws.between(110, 220);
    this.tap = {
      ...{ id: "tap", siteId: "site", name: "Tap", scale: "nacl" },
      low: 0.88 * typical,
      typical,
      high: 1.13 * typical,
    };
    this.vessel = {
      ...{ id: "vessel", name: "Tank", kind: "screw-head-tank", grossVolume: resin / 0.85, fillFraction: 0.85 },
      ...{ diameter: draws.between(170, 260), marks: MARKS["glass-10"] },
    };
    this.rig = {
      ...{ id: "rig", name: "Van", use: "glass", tapId: "tap", flow: 3.2, jobName: "house", litresPerJob: 50 },
      stages: [{ id: "stage", kind: "resin" as const }],
    };
    this.feed = (typical / 0.5) * Math.exp(draws.normal(0, 0.06));
    this.owner = draws.normal(0, 0.25);
    const width = Math.min(0.24, Math.max(0.015, Math.exp(draws.normal(Math.log(0.05), 0.7))));
    const { transferUnits } = unwrap(describeBed({ volume: resin, diameter: this.vessel.diameter, flow: 3.2 }));
    const curve = productCurve(transferUnits, compositionAtResin(this.rig, this.tap), GRADE_CAPACITIES.virgin);
    const share = this.limitShare;
    this.front = frontOf(curve, width);
    this.atLimit = Math.exp(firstPass(this.front, share));
    this.promised = 560 * resin * Math.exp(firstPass(frontOf(curve, 0.05), share));
    // A job takes what it takes, whatever was said of it.
    const habit = 50 * Math.exp(draws.normal(0, 0.2));
    const aDay = (this.promised * 100) / this.feed / draws.between(16, 36);
    const jobs = Math.max(1, aDay / 50);
    this.round = Array.from({ length: DAYS + 200 }, (_, i) => addDays(START, i)).flatMap((on): Job[] => {
      if (!draws.happens(WORKED[weekdayOf(on)]!)) return [];
      const count = Math.max(1, Math.round(jobs * draws.between(0.6, 1.4)));
      return [{ on, jobs: count, litres: count * habit * Math.exp(draws.normal(0, 0.2)) }];
    });
    this.fill(START);
  }

  private fill(on: string): void {
    const open = this.charges.pop();
    const reached = this.truth && this.truth.used >= this.truth.whole;
    if (open) this.charges.push({ ...open, ended: { at: iso(at(on, 6)), why: reached ? "limit" : "early" } });
    this.charges.push({
      ...{ id: `c${this.charges.length}`, vesselId: "vessel", rigId: "rig", grade: "virgin", packing: "settled" },
      ...{ resinLitres: 0.85 * this.vessel.grossVolume, filledAt: iso(at(on, 6)), startTotal: this.register },
    } as Charge);
    const isOff = this.draws.happens(0.15);
    const wholeIfTight = this.promised * Math.exp(this.owner + this.draws.normal(0, isOff ? 0.3 : 0.12));
    const drawn = this.draws.happens(0.2) ? 0.002 * 50 ** this.draws.share() : 0;
    // Half the limit from the first litre on is found and mended.
    const bypass = drawn < this.limitShare / 2 ? drawn : 0;
    const passed = Math.exp(firstPass(this.front, (this.limitShare - bypass) / (1 - bypass)));
    this.truth = { whole: (wholeIfTight * passed) / this.atLimit, wholeIfTight, bypass, used: 0 };
  }

  private get limitShare(): number {
    return Math.min(0.99, (2 * LIMIT_PPM) / this.feed);
  }

  /** ppm, as it truly is. */
  private get output(): number {
    const { used, wholeIfTight, bypass } = this.truth;
    const share = shareAt(this.front, Math.log(Math.max(1e-9, (used / wholeIfTight) * this.atLimit)));
    return 0.5 * this.feed * (bypass + (1 - bypass) * share);
  }

  /** ppm, as the display shows it. */
  private get outputRead(): number {
    const { draws, output } = this;
    if (this.reads === "truly") return Math.max(0, Math.round(output * Math.exp(draws.normal(0, 0.03))));
    if (draws.happens(0.08)) return Math.round(2 * Math.exp(draws.between(0, 5)) - 2);
    const shaped = output * Math.exp(draws.normal(0, 0.25));
    return Math.max(0, Math.round(shaped + draws.normal(0, Math.max(1, 0.03 * output))));
  }

  private get feedRead(): number {
    return Math.round(0.5 * this.feed * Math.exp(this.draws.normal(0, 0.03)));
  }

  /** Draws a day's water. @returns whether the limit was passed while there was work */
  private work({ on, litres }: Job): boolean {
    this.truth.used += (litres * this.feed) / 100;
    this.register += litres;
    const id = `v${this.visits.length}`;
    this.visits.push({
      ...{ id, rigId: "rig", tapId: "tap", at: iso(at(on, 16)), water: { by: "total", total: this.register } },
      readings: [
        { id: `${id}o`, point: "output", meterId: "meter", value: this.outputRead },
        ...(this.visits.length % 5 === 0
          ? [{ id: `${id}f`, point: "feed" as const, meterId: "meter", value: this.feedRead }]
          : []),
      ],
    });
    return this.truth.used > this.truth.whole;
  }

  private facts(today: string): Omit<StandingInput, "bookings"> {
    const { rig, vessel, tap, meter, charges } = this;
    return {
      ...{ rig, vessel, charges, visits: this.visits, today, dateOf, now: at(today, 20) },
      ...{ taps: new Map([["tap", tap]]), meters: new Map([["meter", meter]]) },
    };
  }

  /** What is in the book on a day: the days gone by, and four weeks ahead. */
  private bookings(today: string): readonly Booking[] {
    return this.round
      .filter(({ on }) => on <= addDays(today, BOOKED_AHEAD))
      .map(({ on, jobs }) => ({ id: on, rigId: "rig", on, booked: { by: "jobs", jobs } }));
  }

  /** Day on which the limit truly falls, were it left alone. */
  private trueEnd(today: string): string | undefined {
    let used = this.truth.used;
    for (const { on, litres } of this.round) {
      if (on <= today) continue;
      used += (litres * this.feed) / 100;
      if (used > this.truth.whole) return on;
    }
    return undefined;
  }

  live(follows: "plan" | "meter"): Year {
    const year = emptyYear();
    let lessons = lessonsOf(this.facts(START));
    let filledOn = START;
    for (let day = 0; day < DAYS; day += 1) {
      const on = addDays(START, day);
      const job = this.round.find((each) => each.on === on);
      if (job) {
        year.bookedDays += 1;
        if (this.work(job)) year.dryDays += 1;
      }
      const refill = () => {
        year.refills += 1;
        year.unused += Math.max(0, 1 - this.truth.used / this.truth.whole);
        this.fill(addDays(on, 1));
        filledOn = addDays(on, 1);
        lessons = lessonsOf(this.facts(on));
      };
      const isDated = DATED_ON.includes(daysBetween(filledOn, on));
      if (follows === "meter") {
        if (isDated) this.date(year, on, lessons);
        // Changed when the meter says so: after the day on which it did.
        if (job && this.output >= LIMIT_PPM) refill();
        continue;
      }
      const used = this.truth.used / this.promised;
      // Early in a charge there is nothing to plan, and nothing to be worked out.
      if (!isDated && used < 0.25) continue;
      const { worked, known, owner } = isDated ? this.date(year, on, lessons) : this.standing(on, lessons);
      const vessel: VesselWork = {
        ...{
          rig: this.rig,
          vessel: this.vessel,
          worked,
          owner,
          work: known.filter((each) => each.on >= on),
          appointments: [],
        },
        filling: { grade: "virgin", resinLitres: 0.85 * this.vessel.grossVolume, packing: "settled" },
        minutes: { minutes: 20, of: 0 },
      };
      const plan = proposeWeeks({
        today: on,
        days: SEEN_AHEAD,
        vessels: [vessel],
        dues: [],
        appointments: [],
        prices: DEFAULT_PRICES,
      });
      // In the evening: what is proposed for tomorrow morning is done before tomorrow's work; today's was missed by no one.
      if (plan.days.some((each) => each.on <= addDays(on, 1))) refill();
    }
    return year;
  }

  private standing(on: string, lessons: ReturnType<typeof lessonsOf>) {
    const facts = this.facts(on);
    const owner = learn(lessons, "vessel");
    const known = knownWork(facts, { bookings: this.bookings(on), usualWeeks: [], daysOff: [] });
    return { worked: unwrap(workStanding({ ...facts, bookings: known }, owner)), known, owner };
  }

  /** Holds the dates of a day against the truth. */
  private date(year: Year, on: string, lessons: ReturnType<typeof lessonsOf>) {
    const standing = this.standing(on, lessons);
    this.hold(year, standing, on);
    return standing;
  }

  private hold(year: Year, { worked, known }: ReturnType<Cleaner["standing"]>, today: string): void {
    const end = this.trueEnd(today);
    const futures = standingDays(worked, known);
    const dates = futures.ok ? datesOf(futures.value, worked.firstDay) : futures;
    if (!futures.ok || !dates.ok || end === undefined) return;
    const { early, likely, late } = dates.value;
    year.dated += 1;
    if (likely < end) year.early += 1;
    if (likely === end) year.onTheDay += 1;
    if (early <= end && end <= late) year.inside += 1;
    const day = daysBetween(worked.firstDay, end);
    const share = (holds: (each: number) => boolean) => futures.value.filter(holds).length / futures.value.length;
    const [before, until] = [share((each) => each < day), share((each) => each <= day)];
    const within = Math.max(0, Math.min(0.9, until) - Math.max(0.1, before));
    year.middle += until > before ? within / (until - before) : Number(before >= 0.1 && before <= 0.9);
  }
}
