import { freshStage, planColumn, type ColumnStage, type WorkingStage } from "../../core/src/column/train";
import { conductivityOfRow } from "../../core/src/front/product-curve";
import {
  ANION_SPECIES,
  CATION_SPECIES,
  compositionAtResin,
  GRADE_CAPACITIES,
  MARKS,
  scaleFactor,
  SPECIES,
  unwrap,
  workTrain,
  type Arrangement,
  type Charge,
  type IonFeed,
  type Meter,
  type Rig,
  type StandingInput,
  type Tap,
  type Vessel,
  type Visit,
} from "../../core/src/index";
import { Draws } from "./chance";
import { emptyScore, type Score } from "./score";
import { dateOf, iso, type World } from "./world";

const DAY = 86_400_000;
const START = Date.UTC(2027, 0, 4, 16, 30);
const CELLS = 30;
/** Rotations of an owner's train, and every how many days the shown range is held against the truth. */
const ROTATIONS = 3;
const ASKED_EVERY = 7;
const MOST_DAYS = 500;

/** Five points of a normal and their weights (Gauss and Hermite), for flow paths of unequal capacity. */
const PATHS = [
  { z: -2.856970013872806, weight: 0.0112574113277207 },
  { z: -1.355626179974266, weight: 0.2220759220056126 },
  { z: 0, weight: 0.5333333333333333 },
  { z: 1.355626179974266, weight: 0.2220759220056126 },
  { z: 2.856970013872806, weight: 0.0112574113277207 },
] as const;

/** A bed: its flow paths, as in `PATHS`. */
type Bed = readonly WorkingStage[];

/** Capacities of flow paths of mean 1 and this coefficient of variation. */
const pathCapacities = (width: number) => {
  const sd = Math.sqrt(Math.log(1 + width ** 2));
  return PATHS.map(({ z }) => Math.exp(z * sd - sd ** 2 / 2));
};

/** Two beds at work, cell by cell and ion by ion: the truth that the belief is held against. */
class Column {
  constructor(
    readonly beds: readonly Bed[],
    private readonly ions: IonFeed,
    private readonly step: number,
  ) {}

  /** Takes litres through both. @returns µS/cm behind each at their end */
  take(litres: number): readonly number[] {
    const steps = Math.max(1, Math.ceil(litres / this.step));
    const liquid = new Float64Array(SPECIES.length);
    let out: readonly number[] = [];
    for (const { cation, anion } of this.beds.flat()) for (const side of [cation, anion]) side!.prepare(litres / steps);
    for (let i = 0; i < steps; i += 1) {
      liquid.set(SPECIES.map((each) => this.ions[each]));
      out = this.beds.map((bed) => passed(bed, liquid));
    }
    return out;
  }

  /** The same beds as they stand now, to be run on by themselves. */
  copy(): Column {
    const beds = this.beds.map((bed) =>
      bed.map(({ bypass, cation, anion }) => {
        const own = freshStage({ bypass, cation: cation!.plan, anion: anion!.plan });
        own.cation!.shares.set(cation!.shares);
        own.anion!.shares.set(anion!.shares);
        own.cation!.settle();
        own.anion!.settle();
        return own;
      }),
    );
    return new Column(beds, this.ions, this.step);
  }

  with(beds: readonly Bed[]): Column {
    return new Column(beds, this.ions, this.step);
  }
}

/** Liquid through one bed, in place. @returns µS/cm behind it */
function passed(bed: Bed, liquid: Float64Array): number {
  const fed = liquid.slice();
  liquid.fill(0);
  const [cations, anions] = [new Float64Array(CATION_SPECIES.length + 1), new Float64Array(ANION_SPECIES.length + 1)];
  bed.forEach(({ cation, anion }, path) => {
    const { weight } = PATHS[path]!;
    cations.set(fed.subarray(0, CATION_SPECIES.length));
    anions.set(fed.subarray(CATION_SPECIES.length));
    cation!.step(cations);
    anion!.step(anions);
    CATION_SPECIES.forEach((_, i) => (liquid[i]! += weight * cations[i]!));
    ANION_SPECIES.forEach((_, i) => (liquid[CATION_SPECIES.length + i]! += weight * anions[i]!));
  });
  return conductivityOfRow(liquid, 0);
}

/** An owner of two in a row, who reads behind both each day and rotates when the lead's product meets the limit. */
export function scoreTrain(world: World, seed: number): Score {
  const draws = new Draws(seed);
  const score = emptyScore();
  const isMembrane = world.train === "membrane";
  const resin = isMembrane ? draws.between(1, 2) : draws.between(6, 14);
  const [diameter, flow] = isMembrane ? [66, 0.3] : [draws.between(150, 220), draws.between(2, 4)];
  const rejection = 0.965;
  const typical = draws.between(110, 220);
  const chemistry = { alkalinity: draws.between(0.3, 0.8) * typical, ph: 7.4, silica: 8 };
  const base = { id: "tap", siteId: "site", name: "Tap", scale: "nacl" as const, temperature: 15 };
  const tap: Tap = {
    ...{ ...base, low: 0.88 * typical, typical, high: 1.13 * typical },
    ...(world.train === "known" ? chemistry : {}),
  };
  const marks = isMembrane ? MARKS["aquarium-1"] : MARKS["glass-10"];
  const limit = marks.limit / scaleFactor(marks.scale);
  const meter: Meter = { id: "meter", name: "Pen", scale: isMembrane ? "ec" : "nacl", compensated: true };
  const rig: Rig = {
    ...{ id: "rig", name: "Rig", use: "glass", tapId: "tap", flow, jobName: "job", litresPerJob: 50 },
    stages: [
      ...(isMembrane ? [{ id: "membrane", kind: "membrane" as const, rejection }] : []),
      { id: "first", kind: "resin" },
      { id: "second", kind: "resin" },
    ],
  };
  const middle = compositionAtResin(rig, { ...tap, ...(isMembrane ? {} : chemistry) })!;
  const co2 = isMembrane ? middle.co2 * Math.exp(world.carbon === "prior" ? draws.normal() : 0) : middle.co2;
  const ions: IonFeed = { ...middle.ions, hco3: middle.ions.hco3 - middle.co2 + co2 };
  const vesselOf = (id: string): Vessel => ({
    ...{ id, name: id, kind: "inner-seal-bottle", grossVolume: resin / 0.85, diameter, fillFraction: 0.85, marks },
  });
  const owner = draws.normal(0, 0.25);
  const paths = pathCapacities(Math.min(0.24, Math.max(0.015, Math.exp(draws.normal(Math.log(0.05), 0.7)))));
  const pathOf = (strength: number): ColumnStage => {
    const { cation, anion } = GRADE_CAPACITIES.virgin;
    return {
      kind: "mixed",
      capacity: { cation: cation * strength, anion: anion * strength },
      bed: { volume: resin, diameter, flow, temperature: 15 },
    };
  };
  const plannedAt = (strength: number) =>
    unwrap(planColumn({ feed: ions, stages: [pathOf(strength)], cells: CELLS, profiles: 1 }));
  const bedOf = (): Bed => {
    const strength = Math.exp(owner + draws.normal(0, draws.happens(0.15) ? 0.3 : 0.12));
    return paths.map((capacity) => freshStage(plannedAt(strength * capacity).stages[0]!));
  };
  const { segments } = plannedAt(Math.exp(owner) * Math.min(...paths));
  let column = new Column([bedOf(), bedOf()], ions, segments[0]!.litres / segments[0]!.steps);
  const promised = (100 * 560 * resin) / ((typical / 0.5) * (isMembrane ? 1 - rejection : 1));
  const litresADay = promised / draws.between(14, 30);
  const chargeOf = (vesselId: string, at: number, number: number): Charge => ({
    ...{ id: `charge${number}`, vesselId, rigId: "rig", grade: "virgin", resinLitres: resin, packing: "settled" },
    filledAt: iso(at),
    ...(number === 0 ? { startTotal: 0 } : {}),
  });
  const arranged = (at: number, places: readonly string[]): Arrangement => ({
    ...{ id: `arranged${at}`, rigId: "rig", at: iso(at) },
    places: places.map((vesselId, i) => ({ stageId: ["first", "second"][i]!, vesselId })),
  });
  let places: readonly string[] = ["a", "b"];
  const filledAt = START - DAY / 3;
  let charges: readonly Charge[] = [chargeOf("a", filledAt, 0), chargeOf("b", filledAt, 1)];
  const arrangements = [arranged(filledAt, places)];
  const visits: Visit[] = [];
  let [register, rotations] = [0, 0];
  const seen = (ec25: number) => {
    const stepOf = isMembrane ? 0.1 : 1;
    return Math.max(
      0,
      Math.round((ec25 * scaleFactor(meter.scale) * Math.exp(draws.normal(0, 0.03))) / stepOf) * stepOf,
    );
  };
  const inputAt = (now: number): StandingInput => ({
    ...{ rig, vessel: vesselOf("b"), now, visits: visits.slice(), charges, today: dateOf(now), dateOf },
    taps: new Map([["tap", tap]]),
    meters: new Map([["meter", meter]]),
    train: { rigs: [rig], vessels: ["a", "b"].map(vesselOf), arrangements: arrangements.slice() },
  });
  score.charges = 1;
  for (let day = 0; day < MOST_DAYS; day += 1) {
    const at = START + day * DAY;
    const litres = Math.max(0.1, draws.normal(1, 0.35)) * litresADay;
    const [lead = 0, last = 0] = column.take(litres);
    register += litres;
    const read = (point: "output" | "feed" | "after-membrane", value: number, stageId?: string) => ({
      ...{ id: `v${day}${point}${stageId ?? ""}`, point, meterId: "meter", value },
      ...(stageId ? { stageId } : {}),
    });
    visits.push({
      ...{ id: `v${day}`, rigId: "rig", tapId: "tap", at: iso(at), water: { by: "total", total: register } },
      readings: [
        read("output", seen(lead), "first"),
        read("output", seen(last), "second"),
        ...(day % 5 === 0 ? [read(isMembrane ? "after-membrane" : "feed", Math.max(0.1, seen(middle.ec25)))] : []),
      ],
    });
    const now = at + DAY / 12;
    if (last >= limit) break;
    if (day % ASKED_EVERY === ASKED_EVERY - 1) ask(score, rotations, column, inputAt(now), limit, litresADay);
    if (lead < limit) continue;
    if (rotations === ROTATIONS) break;
    rotations += 1;
    const spent = places[0]!;
    charges = charges.map((each) =>
      each.vesselId === spent && each.ended === undefined
        ? { ...each, ended: { at: iso(now), why: "limit" as const } }
        : each,
    );
    charges = [...charges, chargeOf(spent, now + 1000, charges.length)];
    places = [places[1]!, spent];
    arrangements.push(arranged(now + 1000, places));
    column = column.with([column.beds[1]!, bedOf()]);
  }
  return score;
}

/** Holds what is shown of the last bed against the column run on as it stands. */
function ask(
  score: Score,
  rotations: number,
  column: Column,
  input: StandingInput,
  limit: number,
  litresADay: number,
): void {
  const train = workTrain(input);
  const where = train.ok ? train.value.beds.find(({ isLast }) => isLast)?.worked.standing : undefined;
  if (!where?.left || where.leftTo !== "limit") return;
  const on = column.copy();
  const part = litresADay / 10;
  let truth = 0;
  while (truth < 400 * litresADay && on.take(part)[1]! < limit) truth += part;
  const { low, typical, high } = where.left;
  score.asked[rotations]! += 1;
  if (truth >= low && truth <= high) score.inside[rotations]! += 1;
  if (truth < low) score.below[rotations]! += 1;
  score.bias += (typical - truth) / (truth + litresADay * 10);
}
