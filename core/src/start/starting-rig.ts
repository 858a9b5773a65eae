import type { Id } from "../descriptor/identity";
import type { FeedTest } from "../feed/feed-test.record";
import type { Site } from "../feed/site.record";
import { tapRange } from "../feed/tap-range";
import type { Tap } from "../feed/tap.record";
import { GENERIC_SIZES, type GenericSize } from "../plan/options";
import { RANGES } from "../ranges";
import type { Charge, PartUsed } from "../resin/charge.record";
import type { Grade } from "../resin/capacity";
import { fail, succeed, within, type Result } from "../result";
import type { Arrangement, Place } from "../rig/arrangement.record";
import type { Rig } from "../rig/rig.record";
import type { Marks } from "../vessel/marks";
import type { Vessel } from "../vessel/vessel.record";
import { conductivityAt25, scaleFactor, type Scale } from "../water/meter";
import type { Meter } from "../water/meter.record";
import { TRADES, type Trade } from "./trades";

/** What is asked on a first day, in internal units; all but the reading and the vessel have a sound default. */
export interface StartAnswers {
  readonly trade: Trade;
  /** What the meter shows in the tap's water; a tap that is known needs no reading. */
  readonly shown?: number | undefined;
  readonly meter: Meter | { readonly scale: Scale };
  /** A tap that is known already; else one is made of the reading. */
  readonly tap?: Tap | undefined;
  /** L inside the vessel. */
  readonly grossVolume: number;
  readonly behindMembrane: boolean;
  readonly marks: Marks;
  readonly jobsPerWeek: number;
  readonly litresPerJob: number;
  /** L/min of a tool with a flow of its own. */
  readonly toolFlow?: number | undefined;
  readonly grade: Grade;
  /** What had gone through the charge; absent when it is fresh. */
  readonly partUsed?: PartUsed | undefined;
  readonly name: string;
}

/** Everything that a first rig is made of; a known tap or meter is not made again. */
export interface StartingRecords {
  readonly site?: Site;
  readonly tap: Tap;
  readonly meter: Meter;
  readonly vessel: Vessel;
  readonly rig: Rig;
  readonly arrangement: Arrangement;
  readonly charge: Charge;
  /** What the meter showed, as the tap's first reading. */
  readonly feedTest?: FeedTest;
  readonly isNew: { readonly tap: boolean; readonly meter: boolean };
}

const nearest = (litres: number): GenericSize =>
  GENERIC_SIZES.reduce((best, size) =>
    Math.abs(Math.log(size.grossVolume / litres)) < Math.abs(Math.log(best.grossVolume / litres)) ? size : best,
  );

/**
 * A vessel of any size, shaped like the usual one nearest to it: lengths go with the cube root of its volume.
 * @param litres inside
 * @example sizeOfLitres(25).usualFlow // 3.7, of a tank of 25 L
 */
export function sizeOfLitres(litres: number): GenericSize {
  const like = nearest(litres);
  const times = litres / like.grossVolume;
  return {
    ...like,
    grossVolume: litres,
    diameter: Math.round(like.diameter * Math.cbrt(times)),
    emptyWeight: Number((like.emptyWeight * times ** (2 / 3)).toPrecision(2)),
    usualFlow: Number((like.usualFlow * times ** (2 / 3)).toPrecision(2)),
  };
}

/** Share of the ions that a membrane in order holds back. */
export const USUAL_REJECTION = 0.95;
/** Figures of a tap are written as hand meters show them. */
const round = (value: number) => Number(value.toPrecision(3));

const isMeter = (meter: StartAnswers["meter"]): meter is Meter => "id" in meter;

function tapOf({ shown, meter, tap, trade }: StartAnswers, id: Id, siteId: Id): Result<Tap> {
  if (tap) return succeed(tap);
  const { scale } = meter;
  const empty = fail("pure", "Type what the meter shows in the tap's water, before any filter.", "shown");
  if (shown === undefined) return empty;
  const ec25 = within("shown", conductivityAt25({ value: shown, scale }));
  if (!ec25.ok) return ec25;
  const range = tapRange([{ at: 0, ec25: ec25.value }]);
  if (!range.ok) return empty;
  const onMeter = (value: number) => round(value * scaleFactor(scale));
  const { low, high } = range.value;
  return succeed({
    id,
    siteId,
    name: TRADES[trade].tapName,
    low: onMeter(low),
    typical: shown,
    high: onMeter(high),
    scale,
  });
}

/**
 * The records of a first rig from a few answers, with the defaults of the trade: site, tap, meter, vessel, rig, charge and the
 * tap's first reading. One reading may be of an odd day: the tap's range is that of days to come.
 *
 * @param newId makes the ids
 * @param now ms since 1970
 * @returns a fault with the path of the answer that is wrong
 */
export function startingRecords(answers: StartAnswers, newId: () => Id, now: number): Result<StartingRecords> {
  const { trade, meter: read, grossVolume, behindMembrane, marks, jobsPerWeek, litresPerJob, toolFlow } = answers;
  if (!(grossVolume > 0 && grossVolume <= RANGES.volume.to!))
    return fail("range", "Say how much the vessel holds inside.", "grossVolume");
  const defaults = TRADES[trade];
  const meter: Meter = isMeter(read) ? read : { id: newId(), name: "Hand meter", scale: read.scale, compensated: true };
  const site: Site = { id: newId(), name: defaults.siteName };
  const tap = tapOf(answers, newId(), site.id);
  if (!tap.ok) return tap;
  const { name, kind, diameter, emptyWeight, fillFraction, usualFlow } = sizeOfLitres(grossVolume);
  const vessel: Vessel = {
    id: newId(),
    name: `${answers.name} ${name.toLowerCase()}`,
    ...{ kind, grossVolume, diameter, emptyWeight, fillFraction, marks },
  };
  const before = behindMembrane
    ? [
        { id: newId(), kind: "sediment" as const },
        { id: newId(), kind: "carbon" as const },
        { id: newId(), kind: "membrane" as const, rejection: USUAL_REJECTION },
      ]
    : [];
  const place: Place = { stageId: newId(), vesselId: vessel.id };
  const rig: Rig = {
    id: newId(),
    name: answers.name,
    use: defaults.use,
    tapId: tap.value.id,
    flow: toolFlow ?? usualFlow,
    stages: [...before, { id: place.stageId, kind: "resin" }],
    jobName: defaults.jobName,
    litresPerJob,
    jobsPerWeek,
  };
  const at = new Date(now).toISOString();
  const arrangement: Arrangement = { id: newId(), rigId: rig.id, at, did: "hung-in", places: [place] };
  const charge: Charge = {
    ...{ id: newId(), vesselId: vessel.id, rigId: rig.id, grade: answers.grade, packing: "settled" as const },
    resinLitres: Number((grossVolume * fillFraction).toPrecision(3)),
    filledAt: at,
    ...(answers.partUsed ? { partUsed: answers.partUsed } : {}),
  };
  const { shown } = answers;
  // A meter that read nothing is not kept.
  const isNew = { tap: answers.tap === undefined, meter: !isMeter(read) && shown !== undefined };
  return succeed({
    ...(isNew.tap ? { site } : {}),
    ...{ tap: tap.value, meter, vessel, rig, arrangement, charge, isNew },
    ...(shown === undefined
      ? {}
      : { feedTest: { id: newId(), tapId: tap.value.id, at, meterId: meter.id, value: shown } }),
  });
}
