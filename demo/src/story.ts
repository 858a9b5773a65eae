import {
  compositionAtResin,
  onScale,
  type Arrangement,
  type Charge,
  type EndReason,
  type ReadingRecord,
  type Stage,
  type Visit,
} from "@winter-bead/core";
import { BedTruth, readingOf, streamOf } from "./bed-truth";
import { Chance } from "./chance";
import { METERS, TAPS, type DemoRig, type FeedSeason } from "./places";
import { ResinTruth } from "./resin-truth";

const DAY = 86_400_000;
const HOUR = 3_600_000;
const MINUTE = 60_000;

export interface RigIds {
  readonly rigId: string;
  /** In the order of the flow, as they are hung in first. */
  readonly vesselIds: readonly string[];
  /** Places for vessels, in the order of the flow. */
  readonly stageIds: readonly string[];
  readonly tapIds: ReadonlyMap<string, string>;
  readonly meterId: string;
}

export interface RigStory {
  readonly arrangements: readonly Arrangement[];
  readonly charges: readonly Charge[];
  readonly visits: readonly Visit[];
  /** ppm on the vessel's scale at the last visit, before the meter's noise. */
  readonly lastOutput: number;
}

const dayOfYear = (at: number) => Math.floor((at - Date.UTC(new Date(at).getUTCFullYear(), 0, 0)) / DAY);

/** Conductivity to expect of a tap on a day, µS/cm. */
export const seasonal = ({ mean, swing, peakDay }: FeedSeason, at: number) =>
  mean + swing * Math.cos((2 * Math.PI * (dayOfYear(at) - peakDay)) / 365);

const rejectionOf = (stages: readonly Stage[]) =>
  stages.reduce((kept, stage) => (stage.kind === "membrane" ? 1 - (1 - kept) * (1 - stage.rejection) : kept), 0);

const rounded = (value: number, step: number) => Math.max(0, Math.round(value / step) * step);
const tidy = (value: number) => Number(value.toFixed(2));

/** What reaches the resin of a rig, where the chemistry of its usual tap is known. */
function waterAtResin({ rig, before, taps }: DemoRig) {
  const { tap } = TAPS.find((each) => each.tap.name === taps[0]!.name)!;
  return compositionAtResin({ ...rig, id: "rig", tapId: "tap", stages: before }, { ...tap, id: "tap", siteId: "site" });
}

/** A vessel in its place: one alone by its front, those of a train cell by cell. */
type Bed = { readonly vesselId: string } & (
  { readonly resin: ResinTruth; readonly cells?: undefined } | { readonly cells: BedTruth; readonly resin?: undefined }
);

/** Tells one rig's months, day by day. */
class Telling {
  private readonly charges: Charge[] = [];
  private readonly visits: Visit[] = [];
  private readonly chance: Chance;
  private readonly arrangements: Arrangement[] = [];
  /** In the order of the flow. */
  private beds: Bed[] = [];
  private readonly water: ReturnType<typeof waterAtResin>;
  private register = 41_200;
  private lastOutput = 0;

  /** @param fixed strength of the resin in one charge, by its number, in place of the drawn one */
  constructor(
    private readonly demo: DemoRig,
    private readonly ids: RigIds,
    seed: number,
    private readonly firstUsed: number,
    private readonly fixed?: { readonly charge: number; readonly strength: number },
  ) {
    this.chance = new Chance(seed);
    this.water = waterAtResin(demo);
  }

  tell(from: number, now: number): RigStory {
    const at = from - 2 * HOUR;
    this.beds = this.ids.vesselIds.map((vesselId, i) => this.filled(vesselId, at, i === 0 ? this.firstUsed : 0));
    this.arrange(at, "hung-in");
    for (let day = from; day <= now; day += DAY) {
      const weekday = (new Date(day).getUTCDay() + 6) % 7;
      const last = day + DAY > now;
      if (!last && !this.chance.happens(this.demo.work.week[weekday]!)) continue;
      const at = last ? now - 25 * MINUTE : day + this.demo.work.hour * HOUR + this.chance.whole(0, 150) * MINUTE;
      this.work(at, last);
    }
    return { arrangements: this.arrangements, charges: this.charges, visits: this.visits, lastOutput: this.lastOutput };
  }

  /** Notes who stands where from now on. */
  private arrange(at: number, did: NonNullable<Arrangement["did"]>): void {
    const { rigId, stageIds } = this.ids;
    const places = this.beds.map(({ vesselId }, i) => ({ stageId: stageIds[i]!, vesselId }));
    this.arrangements.push({ id: this.chance.id(at), rigId, at: new Date(at).toISOString(), did, places });
  }

  private filled(vesselId: string, at: number, alreadyUsed = 0): Bed {
    const { charge, vessel, rig } = this.demo;
    const truth = { ...charge, diameter: vessel.diameter, flow: rig.flow };
    const strength = this.fixed?.charge === this.charges.length ? this.fixed.strength : undefined;
    const water = this.demo.lag && this.water;
    const resin = water ? undefined : new ResinTruth(truth, this.chance, this.demo.hiddenShare, strength, this.water);
    const resinLitres = tidy(charge.resinLitres * (alreadyUsed > 0 ? 1 - alreadyUsed : this.chance.between(0.97, 1)));
    const total = this.demo.water === "total" ? { startTotal: Math.round(this.register) } : {};
    this.charges.push({
      id: this.chance.id(at),
      vesselId,
      rigId: this.ids.rigId,
      grade: charge.grade,
      resinLitres,
      packing: charge.packing,
      filledAt: new Date(at).toISOString(),
      ...total,
    });
    resin?.beginAt(alreadyUsed);
    return resin
      ? { vesselId, resin }
      : { vesselId, cells: new BedTruth({ ...truth, resinLitres }, this.chance, water!) };
  }

  /** The first vessel is emptied, filled anew, and stands last from then on: alone, or behind what was its lag. */
  private end(at: number, why: EndReason, note?: string): void {
    const [first, ...others] = this.beds;
    const open = this.charges.findIndex(({ vesselId, ended }) => vesselId === first!.vesselId && ended === undefined);
    const ended = { at: new Date(at).toISOString(), why, ...(note ? { note } : {}) };
    this.charges[open] = { ...this.charges[open]!, ended };
    const again = at + 30 * MINUTE;
    this.beds = [...others, this.filled(first!.vesselId, again)];
    if (others.length > 0) this.arrange(again, "rotated");
  }

  private work(at: number, last: boolean): void {
    const { demo, chance } = this;
    const jobs = chance.whole(...demo.work.jobs);
    const litres = Array.from({ length: jobs }, () => chance.between(...demo.work.litresPerJob)).reduce(
      (sum, each) => sum + each,
      0,
    );
    const tapName =
      demo.taps.length > 1 && chance.happens(demo.taps[1]!.chance) ? demo.taps[1]!.name : demo.taps[0]!.name;
    const { season } = TAPS.find((each) => each.tap.name === tapName)!;
    const tapEc = seasonal(season, at) + chance.normal(0, season.scatter);
    const resinFeed = tapEc * (1 - rejectionOf(demo.before)) * Math.exp(chance.normal(0, 0.03));
    this.register += litres;
    const outputs = this.treat(litres, resinFeed);
    const output = outputs[outputs.length - 1]!;
    this.lastOutput = onScale(output, demo.vessel.marks.scale);
    this.visits.push(this.visitOf(at, tapName, tapEc, resinFeed, outputs, litres, jobs, last));
    if (!last) this.maybeChange(at + 2 * HOUR, outputs);
  }

  /** Takes water through the train. @returns µS/cm behind each bed */
  private treat(litres: number, feed: number): readonly number[] {
    let reaching = feed;
    let stream = this.water && streamOf(this.water, feed);
    return this.beds.map(({ resin, cells }) => {
      if (cells) return readingOf((stream = cells.treat(litres, stream!)));
      resin.treat(litres, reaching);
      return (reaching = resin.output(reaching));
    });
  }

  private visitOf(
    at: number,
    tapName: string,
    tapEc: number,
    resinFeed: number,
    outputs: readonly number[],
    litres: number,
    jobs: number,
    last: boolean,
  ): Visit {
    const readings: ReadingRecord[] = [];
    const stray = this.strayOutput(outputs[outputs.length - 1]!, resinFeed, last);
    outputs.slice(0, -1).forEach((each, i) => {
      if (last || this.chance.happens(0.7))
        readings.push({ ...this.reading(at, "output", each, 0.02), stageId: this.ids.stageIds[i]! });
    });
    const behindLast = outputs.length > 1 ? { stageId: this.ids.stageIds[outputs.length - 1]! } : {};
    readings.push({ ...this.reading(at, "output", stray.ec25, 0.012), ...behindLast });
    if (last || this.chance.happens(0.45)) readings.push(this.reading(at, "feed", tapEc, 0.012));
    const behindMembrane = this.demo.before.some((stage) => stage.kind === "membrane");
    if (behindMembrane && (last || this.chance.happens(0.5)))
      readings.push(this.reading(at, "after-membrane", resinFeed, 0.02));
    return {
      id: this.chance.id(at),
      rigId: this.ids.rigId,
      tapId: this.ids.tapIds.get(tapName)!,
      at: new Date(at).toISOString(),
      water: this.waterOf(litres, jobs),
      readings,
      ...(stray.note ? { note: stray.note } : {}),
    };
  }

  /** Now and then a reading says something else than the resin: standing water, a valve left open. */
  private strayOutput(output: number, feed: number, last: boolean): { ec25: number; note?: string } {
    if (last) return { ec25: output };
    if (this.chance.happens(0.012)) return { ec25: output + 0.06 * feed, note: "Bypass was cracked open, shut it." };
    if (this.chance.happens(0.02))
      return { ec25: output + this.chance.between(0.015, 0.05) * feed, note: "Stood since yesterday, read too early." };
    return { ec25: output };
  }

  private reading(at: number, point: ReadingRecord["point"], ec25: number, noise: number): ReadingRecord {
    const { scale, resolution } = METERS[this.demo.meter];
    const shown = rounded(
      onScale(
        ec25 * Math.exp(this.chance.normal(0, noise)) + Math.abs(this.chance.normal(0, 0.25 * resolution)),
        scale,
      ),
      resolution,
    );
    return { id: this.chance.id(at), point, meterId: this.ids.meterId, value: tidy(shown) };
  }

  private waterOf(litres: number, jobs: number): Visit["water"] {
    if (this.demo.water === "total") return { by: "total", total: Math.round(this.register * 10) / 10 };
    if (this.chance.happens(0.15)) return { by: "jobs", jobs, litresPerJob: this.demo.rig.litresPerJob };
    const { flow } = this.demo.rig;
    return { by: "timed", minutes: Math.round((litres / flow) * Math.exp(this.chance.normal(0, 0.08))), flow };
  }

  private maybeChange(at: number, outputs: readonly number[]): void {
    const ppm = onScale(outputs[0]!, this.demo.vessel.marks.scale);
    const [quietFriday, nickedRing] = [this.chance.happens(0.02), this.chance.happens(0.006)];
    const throughput = this.beds[0]!.resin?.throughput ?? 0;
    if (outputs.length > 1) {
      if (ppm >= this.demo.lag!.rotatesAt) this.end(at, "limit");
    } else if (ppm >= this.demo.changesAt) this.end(at, "limit");
    else if (throughput > 0.72 && quietFriday) this.end(at, "early", "Quiet Friday, changed ahead of a full week.");
    else if (throughput > 0.3 && throughput < 0.6 && nickedRing)
      this.end(at, "fault", "Nicked O-ring let beads into the head; refilled with new resin.");
  }
}

const visitsSinceFill = ({ charges, visits }: RigStory) =>
  visits.filter((visit) => visit.at > charges[charges.length - 1]!.filledAt).length;

/** Visits into a charge at which a story that should stand early stands today. */
const EARLY_VISITS = 9;
const BEGINNINGS = 16;
/** Resin this far from its grade would not be believed. */
const BELIEVABLE = [0.8, 1.12] as const;

/** The same story with the resin of its last charge so strong that today's output is the one wanted, ppm. */
function endingAt(
  target: number,
  story: RigStory,
  retell: (fixed: { charge: number; strength: number }) => RigStory,
): { story: RigStory; strength: number } | undefined {
  const charge = story.charges.length - 1;
  let [weak, strong] = BELIEVABLE as readonly [number, number] as [number, number];
  for (let i = 0; i < 18; i += 1) {
    const strength = (weak + strong) / 2;
    const told = retell({ charge, strength });
    const tooWeak = told.charges.length > story.charges.length || told.lastOutput > target;
    if (!tooWeak && told.lastOutput > 0.9 * target) return { story: told, strength };
    if (tooWeak) weak = strength;
    else strong = strength;
  }
  return undefined;
}

/** Five months of one rig, begun so that today finds it where the demo wants it. */
export function tellRig(demo: DemoRig, ids: RigIds, seed: number, from: number, now: number): RigStory {
  let best: RigStory | undefined;
  let least = Infinity;
  for (let i = 0; i < BEGINNINGS; i += 1) {
    const tell = (fixed?: { charge: number; strength: number }) =>
      new Telling(demo, ids, seed + i, i / (2 * BEGINNINGS), fixed).tell(from, now);
    const story = tell();
    if (demo.today === "early") {
      const miss = Math.abs(visitsSinceFill(story) - EARLY_VISITS);
      if (miss < least) [best, least] = [story, miss];
      continue;
    }
    if (visitsSinceFill(story) < EARLY_VISITS) continue;
    const ended = endingAt(demo.today, story, tell);
    if (ended && Math.abs(Math.log(ended.strength / 0.96)) < least)
      [best, least] = [ended.story, Math.abs(Math.log(ended.strength / 0.96))];
  }
  return best ?? new Telling(demo, ids, seed, 0).tell(from, now);
}
