import {
  describeBed,
  firstPass,
  flowPaths,
  frontOf,
  GRADE_CAPACITIES,
  MARKS,
  meanBreakthrough,
  productCurve,
  compositionAtResin,
  scaleFactor,
  shareAt,
  tabled,
  unwrap,
  type Charge,
  type FrontTable,
  type Meter,
  type Rig,
  type StandingInput,
  type Tap,
  type Vessel,
  type Visit,
  type VisitWater,
} from "../../core/src/index";
import { Draws } from "./chance";

/** A world to be wrong in: what differs from what the belief assumes. */
export interface World {
  readonly name: string;
  /** Ended charges before the one that is judged. */
  readonly past?: number;
  /** Work-days from one output reading to the next. */
  readonly readEvery?: number;
  /** Charges scatter, and water goes round the beads, as often as is believed beforehand. */
  readonly asBelieved?: boolean;
  /** ln q of the owner's resin beside its grade; drawn when absent. */
  readonly owner?: number;
  /** ln q of the judged charge beside the owner's; drawn when absent. */
  readonly odd?: number;
  /** Width of every front; drawn when absent. */
  readonly width?: number;
  readonly asymmetric?: boolean;
  readonly bypass?: number;
  readonly water?: "metered" | "timed" | "guessed";
  /** What is logged for a litre. */
  readonly logged?: number;
  /** Factor on the feed that nobody reads. */
  readonly unreadFeed?: number;
  readonly forgotten?: number;
  readonly wrongReadings?: number;
  /** ppm that the meter adds. */
  readonly offset?: number;
  /** Share of the charge from which nothing is logged. */
  readonly silentFrom?: number;
  readonly alkaline?: boolean;
  readonly aquarium?: boolean;
  /** An odd reading is looked at again a minute later; of so many the second look shows the same. */
  readonly repeats?: number;
  /** Behind a membrane at a tap whose carbon dioxide nobody measured: standard deviations from what is likely; drawn from it at "prior". */
  readonly carbon?: "prior" | number;
  /** Two in a row, rotated when the lead's product meets the limit: its alkalinity is known, or its conductivity alone. */
  readonly train?: "known" | "meter-alone" | "membrane";
}

const DAY = 86_400_000;
const START = Date.UTC(2027, 0, 4, 16, 30); // a Monday
export const iso = (at: number) => new Date(at).toISOString();
export const dateOf = (at: number) => iso(at).slice(0, 10);
const isWorkday = (at: number) => ![0, 6].includes(new Date(at).getUTCDay());

const meterOf = ({ aquarium }: World): Meter => ({
  id: "meter",
  name: "Pocket",
  scale: aquarium ? "ec" : "nacl",
  compensated: true,
});

/** One visit as it truly was. */
interface TrueVisit {
  readonly at: number;
  /** Litres of this charge by then: true, and as they would be logged. */
  readonly litres: number;
  readonly asLogged: number;
}

/** A charge as it truly was, and what of it was logged. */
export interface ToldCharge {
  readonly charge: Charge;
  readonly visits: readonly Visit[];
  readonly true: readonly TrueVisit[];
  /** Litres, as they would be logged, at which the output passed the limit and the hard mark. */
  readonly atLimit: number;
  readonly atHard: number;
  /** When it passed the limit. */
  readonly limitAt: number;
  /** meq that the grade promises to the limit. */
  readonly promised: number;
}

export interface ToldRig {
  readonly charges: readonly ToldCharge[];
  readonly facts: Omit<StandingInput, "visits" | "charges" | "now" | "today">;
}

interface ChargeTruth {
  readonly feed: number;
  /** meq to the limit. */
  readonly whole: number;
  /** What is logged for a litre. */
  readonly habit: number;
  readonly limit: number;
  readonly hard: number;
  /** Share of the feed let through, against the share of `whole` put on. */
  readonly output: (share: number) => number;
}

const STEPS_A_DAY = 20;

/** One charge as it is used up, and where it passes its marks. */
class ChargeAtWork {
  litres = 0;
  meq = 0;
  asLogged = 0;
  atLimit = Infinity;
  atHard = Infinity;
  limitAt = Infinity;

  constructor(private readonly truth: ChargeTruth) {}

  get outputNow(): number {
    const { feed, whole, output } = this.truth;
    return feed * output(this.meq / whole);
  }

  /** Draws a day's water. @returns the litres as they would be logged */
  work(litres: number, day: number): number {
    const { feed, habit, limit, hard } = this.truth;
    for (let i = 0; i < STEPS_A_DAY; i += 1) {
      this.litres += litres / STEPS_A_DAY;
      this.asLogged += (litres * habit) / STEPS_A_DAY;
      this.meq += (litres * feed) / 100 / STEPS_A_DAY;
      const out = this.outputNow;
      if (out >= limit && this.atLimit === Infinity) [this.atLimit, this.limitAt] = [this.asLogged, day];
      if (out >= hard && this.atHard === Infinity) this.atHard = this.asLogged;
    }
    return litres * habit;
  }
}

/** An invented owner: vessel, tap, habits, and one charge after the other. */
export class Owner {
  private readonly draws: Draws;
  private readonly rig: Rig;
  private readonly vessel: Vessel;
  private readonly tap: Tap;
  private readonly meter: Meter;
  private readonly trueFeed: number;
  private readonly owner: number;
  private readonly width: number;
  private readonly litresADay: number;
  /** What this owner logs for a litre, always. */
  private readonly habit: number;
  private readonly even: FrontTable;
  private readonly capacity: number;
  private readonly limit: number;
  private readonly hard: number;
  private register = 1000;
  private day = START;

  constructor(
    private readonly world: World,
    seed: number,
  ) {
    const draws = (this.draws = new Draws(seed));
    const { aquarium, alkaline } = world;
    const resin = aquarium ? draws.between(1, 2) : draws.between(9, 24);
    const diameter = aquarium ? 66 : draws.between(170, 260);
    const marks = aquarium ? MARKS["aquarium-1"] : MARKS["glass-10"];
    const flow = aquarium ? 0.3 : draws.between(2.5, 4.5);
    const typical = draws.between(110, 220);
    this.meter = meterOf(world);
    this.tap = {
      id: "tap",
      siteId: "site",
      name: "Tap",
      low: 0.88 * typical,
      typical,
      high: 1.13 * typical,
      scale: "nacl",
      temperature: 15,
      ...(alkaline ? { alkalinity: 0.62 * typical, ph: 7.4, silica: 8 } : {}),
      ...(aquarium && world.carbon === undefined ? { alkalinity: 0.62 * typical, ph: 7.4, silica: 8 } : {}),
    };
    this.vessel = {
      id: "vessel",
      name: "Bottle",
      kind: "inner-seal-bottle",
      grossVolume: resin / 0.85,
      diameter,
      fillFraction: 0.85,
      marks,
    };
    this.rig = {
      id: "rig",
      name: "Rig",
      use: aquarium ? "aquarium" : "glass",
      tapId: "tap",
      flow,
      stages: [
        ...(aquarium ? [{ id: "membrane", kind: "membrane" as const, rejection: 0.965 }] : []),
        { id: "stage", kind: "resin" as const },
      ],
      jobName: "job",
      litresPerJob: 50,
    };
    const passes = aquarium ? 0.035 : 1;
    this.trueFeed = (typical / 0.5) * passes * Math.exp(draws.normal(0, 0.06));
    this.owner = world.owner ?? draws.normal(0, 0.25);
    this.width = world.width ?? Math.min(0.24, Math.max(0.015, Math.exp(draws.normal(Math.log(0.05), 0.7))));
    this.habit =
      (world.logged ?? 1) *
      (world.water === "timed" ? Math.exp(draws.normal(0, 0.15)) : 1) *
      (world.water === "guessed" ? Math.exp(draws.normal(0, 0.3)) : 1);
    const { transferUnits } = unwrap(describeBed({ volume: resin, diameter, flow, temperature: 15 }));
    const water = alkaline || aquarium ? this.trueWater() : undefined;
    this.even =
      productCurve(transferUnits, water, GRADE_CAPACITIES.virgin).composed ??
      tabled((t) => evenFront(t, transferUnits));
    this.capacity = 1000 * resin * 0.56;
    const toEc25 = (value: number) => value / scaleFactor(marks.scale);
    [this.limit, this.hard] = [toEc25(marks.limit), toEc25(marks.hard)];
    const toLimit = (of: typeof water) => {
      const front = frontOf(productCurve(transferUnits, of, GRADE_CAPACITIES.virgin), 0.05);
      return this.capacity * Math.exp(firstPass(front, Math.min(0.99, this.limit / this.trueFeed)));
    };
    this.promised = toLimit(water);
    // What is asked hangs on what can be known: where it hung on the truth itself, no belief could hold.
    this.expected =
      water && world.carbon !== undefined ? toLimit(compositionAtResin(this.rig, this.tap)) : this.promised;
    this.litresADay = (100 * this.promised) / this.trueFeed / draws.between(18, 40);
    if (aquarium) this.rig = { ...this.rig, litresPerJob: this.litresADay };
    this.transferUnits = transferUnits;
  }

  private readonly transferUnits: number;
  /** meq to the limit of resin as its grade says: in the true water, and in the one to expect. */
  private readonly promised: number;
  private readonly expected: number;

  /** What truly reaches the resin: carbon dioxide that nobody measured is as this world draws it. */
  private trueWater() {
    const { carbon } = this.world;
    const middle = compositionAtResin(this.rig, this.tap);
    if (carbon === undefined || !middle) return middle;
    const z = carbon === "prior" ? this.draws.normal() : carbon;
    const co2 = middle.co2 * Math.exp(z);
    return { ...middle, co2, ions: { ...middle.ions, hco3: middle.ions.hco3 - middle.co2 + co2 } };
  }

  tell(): ToldRig {
    const { past = 0 } = this.world;
    const charges = Array.from({ length: past + 1 }, (_, i) => this.charge(i, i === past));
    const { rig, vessel, tap, meter } = this;
    return {
      charges,
      facts: { rig, vessel, taps: new Map([["tap", tap]]), meters: new Map([["meter", meter]]), dateOf },
    };
  }

  /** Share of the feed that this charge lets through against the share of its limit's load. */
  private trueFront(bypass: number): (share: number) => number {
    const { asymmetric } = this.world;
    const width = this.width;
    const units = Math.max(this.transferUnits, 3 / width);
    const paths = flowPaths(width);
    const table = frontOf({ transferUnits: this.transferUnits, composed: this.even }, width);
    const isComposed = this.world.alkaline || this.world.aquarium;
    const bed = (throughput: number) => {
      if (isComposed) return shareAt(table, Math.log(Math.max(1e-9, throughput)));
      const plain = meanBreakthrough(throughput, units, paths);
      // A long tail before a steep end: a tenth of the water leads by a fifth.
      return asymmetric ? 0.9 * plain + 0.1 * meanBreakthrough(1.2 * throughput, units, flowPaths(0.08)) : plain;
    };
    const [low, high] = [1e-3, 4];
    let [a, b] = [low, high];
    const share = Math.min(0.99, this.limit / this.trueFeed);
    for (let i = 0; i < 60; i += 1) {
      const middle = (a + b) / 2;
      if (bed(middle) >= share) b = middle;
      else a = middle;
    }
    return (of) => bypass + (1 - bypass) * bed(of * b);
  }

  /** The resin and the habits of one more charge, drawn. */
  private drawCharge(judged: boolean) {
    const { world, draws, trueFeed, limit, hard } = this;
    const isOff = world.asBelieved === true && draws.happens(0.15);
    const scatter = judged && world.odd !== undefined ? world.odd : draws.normal(0, isOff ? 0.3 : 0.12);
    const bypass = world.bypass ?? (world.asBelieved && draws.happens(0.2) ? 0.002 * 50 ** draws.share() : 0);
    const feed = trueFeed * (judged ? (world.unreadFeed ?? 1) : 1);
    const isMetered = world.water === undefined || world.water === "metered";
    const habit = this.habit * Math.exp(draws.normal(0, isMetered ? 0.02 : 0.05));
    const whole = this.promised * Math.exp(this.owner + scatter);
    const output = this.trueFront(bypass);
    // Water that goes round the beads so that half the limit shows from the first litre is found and mended.
    const isFaulty = 2 * bypass * feed > limit;
    return { resin: new ChargeAtWork({ feed, whole, habit, limit, hard, output }), whole, feed, isFaulty };
  }

  private charge(index: number, judged: boolean): ToldCharge {
    const { world, draws } = this;
    const { resin, whole, feed, isFaulty } = this.drawCharge(judged);
    const startTotal = this.register;
    const filledAt = this.day - 8 * 3_600_000;
    const visits: Visit[] = [];
    const told: TrueVisit[] = [];
    let [sinceRead, sinceFeed] = [0, 99];
    const isSilent = () => judged && world.silentFrom !== undefined && resin.meq > world.silentFrom * whole;
    const isOver = () => (judged ? resin.asLogged > 1.05 * resin.atHard : resin.outputNow >= 1.15 * this.limit);
    for (let count = 0; count < 400; count += 1, this.day += DAY) {
      if (!draws.happens(isWorkday(this.day) ? 0.9 : 0.08)) continue;
      const logged = resin.work(Math.max(0.1, draws.normal(1, 0.35)) * this.litresADay, this.day);
      this.register += logged;
      told.push({ at: this.day, litres: resin.litres, asLogged: resin.asLogged });
      sinceRead += 1;
      sinceFeed += 1;
      if (!draws.happens(world.forgotten ?? 0) && !isSilent()) {
        const reads = sinceRead >= (world.readEvery ?? 1);
        const readsFeed = sinceFeed >= 5 && world.unreadFeed === undefined;
        const seen = [reads ? resin.outputNow : undefined, readsFeed ? feed : undefined] as const;
        const [visit, isOdd] = this.visit(index, visits.length, logged, ...seen);
        visits.push(visit);
        if (isOdd && world.repeats !== undefined) visits.push(this.again(visit, resin.outputNow));
        if (reads) sinceRead = 0;
        if (readsFeed) sinceFeed = 0;
      }
      if (isOver()) break;
    }
    this.day += DAY;
    const ended = { at: iso(this.day - DAY + 3_600_000), why: isFaulty ? ("fault" as const) : ("limit" as const) };
    const charge: Charge = {
      id: `charge${index}`,
      vesselId: "vessel",
      rigId: "rig",
      grade: "virgin",
      resinLitres: 0.85 * this.vessel.grossVolume,
      packing: "settled",
      filledAt: iso(filledAt),
      startTotal,
      ...(judged ? {} : { ended }),
    };
    const { atLimit, atHard, limitAt } = resin;
    return { charge, visits, true: told, atLimit, atHard, limitAt, promised: this.expected };
  }

  /** What the meter shows of a water. */
  private seen(ec25: number, step: number): number {
    const shown =
      ec25 * scaleFactor(this.meter.scale) * Math.exp(this.draws.normal(0, 0.03)) + (this.world.offset ?? 0);
    return Math.max(0, Math.round(shown / step) * step);
  }

  /** A second look, a minute later and with no water between: as it truly is, but now and then as before. */
  private again(visit: Visit, output: number): Visit {
    const first = visit.readings.find(({ point }) => point === "output")!;
    const value = this.draws.happens(this.world.repeats!) ? first.value : this.seen(output, 1);
    return {
      ...{ id: `${visit.id}again`, rigId: visit.rigId, tapId: visit.tapId },
      at: iso(Date.parse(visit.at) + 60_000),
      readings: [{ ...first, id: `${first.id}again`, value }],
    };
  }

  private visit(
    charge: number,
    index: number,
    litres: number,
    output: number | undefined,
    feed: number | undefined,
  ): readonly [Visit, isOdd: boolean] {
    const { world, draws } = this;
    const step = world.aquarium ? 0.1 : 1;
    const seen = (ec25: number) => this.seen(ec25, step);
    const wrong = output !== undefined && draws.happens(world.wrongReadings ?? 0);
    const id = `c${charge}v${index}`;
    const water: VisitWater =
      world.water === "timed"
        ? { by: "timed", minutes: (litres / this.rig.flow) * Math.exp(draws.normal(0, 0.1)), flow: this.rig.flow }
        : world.water === "guessed"
          ? {
              by: "jobs",
              jobs: (litres / this.rig.litresPerJob) * Math.exp(draws.normal(0, 0.2)),
              litresPerJob: this.rig.litresPerJob,
            }
          : { by: "total", total: this.register };
    const visit: Visit = {
      id,
      rigId: "rig",
      tapId: "tap",
      at: iso(this.day),
      water,
      readings: [
        ...(output === undefined
          ? []
          : [
              {
                id: `${id}o`,
                point: "output" as const,
                meterId: "meter",
                value: seen(output + (wrong ? draws.between(10, 80) : 0)),
              },
            ]),
        ...(feed === undefined
          ? []
          : [
              {
                id: `${id}f`,
                point: world.aquarium ? ("after-membrane" as const) : ("feed" as const),
                meterId: "meter",
                value: Math.max(step, seen(feed)),
              },
            ]),
      ],
    };
    return [visit, wrong];
  }
}

const evenFront = (throughput: number, units: number) =>
  throughput * units < 1 ? Math.exp(-units) : Math.min(1, Math.exp(units * (throughput - 1) - 1));
