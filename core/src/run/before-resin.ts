import type { Id } from "../descriptor/identity";
import type { MembraneCheck } from "../membrane/membrane-check.record";
import { PASSAGE_UP } from "../membrane/wear";
import { median } from "../numerics/quantile";
import type { Rig } from "../rig/rig.record";
import type { ReadingPoint, Visit } from "../rig/visit.record";
import type { PressureCheck } from "../upkeep/pressure-check.record";
import type { Service } from "../upkeep/service.record";
import { BELOW_A_STEP, scaleFactor } from "../water/meter";
import type { Meter } from "../water/meter.record";
import { recordedEc25, scaleOf, time } from "./readings";

/** What was read and done before the resin of one rig. */
export interface BeforeFacts {
  readonly rig: Rig;
  readonly visits: readonly Visit[];
  readonly membraneChecks: readonly MembraneCheck[];
  readonly pressureChecks: readonly PressureCheck[];
  readonly services: readonly Service[];
  readonly meters: ReadonlyMap<Id, Meter>;
}

/** What a membrane let through, as somebody read it: in a check, or before and behind it in the log. */
export interface PassageRead {
  /** Milliseconds since 1970. */
  readonly at: number;
  /** µS/cm. */
  readonly feedEc25: number;
  readonly productEc25: number;
  /** Share of the salt that came through; a product of 0 is below a step of its meter. */
  readonly passage: number;
  /** New or just cleaned. */
  readonly isClean: boolean;
  readonly by: "check" | "log";
}

/** What stands before the resin and asks for a hand. */
export interface BeforeResin {
  /** Chlorine was found behind the carbon, milliseconds since 1970, and nothing was done about it since. */
  readonly chlorineAt?: number;
  /** The membrane lets clearly more through than it usually does: shares, and when it was read. */
  readonly climbing?: { readonly passage: number; readonly usual: number; readonly at: number };
}

type Read = Parameters<typeof recordedEc25>[0];

/** A pair of readings; nothing where one of them is not there, or the product reads above the feed. */
function pairOf(
  feed: Read | undefined,
  product: Read | undefined,
  meters: BeforeFacts["meters"],
): Pick<PassageRead, "feedEc25" | "productEc25" | "passage"> | undefined {
  const feedEc25 = feed && recordedEc25(feed, meters);
  const productEc25 = product && recordedEc25(product, meters);
  if (!feedEc25 || productEc25 === undefined || productEc25 > feedEc25) return undefined;
  const least = BELOW_A_STEP / scaleFactor(scaleOf(product!, meters));
  return { feedEc25, productEc25, passage: (productEc25 > 0 ? productEc25 : Math.min(least, feedEc25)) / feedEc25 };
}

/** The membranes of a rig; the last one's product is what is read behind them. */
const hasMembrane = ({ stages }: Rig) => stages.some(({ kind }) => kind === "membrane");

/**
 * Everything that tells what a rig's membrane lets through, oldest first: checks in which feed and product were read, and
 * visits with a reading before and one behind it.
 */
export function passagesRead({ rig, visits, membraneChecks, meters }: BeforeFacts): readonly PassageRead[] {
  const ofChecks = membraneChecks.flatMap((check): PassageRead[] => {
    const { rigId, at, clean, meterId, scale, temperature, feed, product } = check;
    if (rigId !== rig.id || feed === undefined || product === undefined) return [];
    const read = (value: number) => ({ meterId, scale, temperature, value });
    const pair = pairOf(read(feed), read(product), meters);
    return pair ? [{ at: time(at), ...pair, isClean: clean, by: "check" }] : [];
  });
  const ofVisits = visits.flatMap(({ rigId, at, readings }): PassageRead[] => {
    const last = (point: ReadingPoint) => readings.filter((reading) => reading.point === point).pop();
    const pair =
      rigId === rig.id ? pairOf(last("after-carbon") ?? last("feed"), last("after-membrane"), meters) : undefined;
    return pair ? [{ at: time(at), ...pair, isClean: false, by: "log" }] : [];
  });
  return [...ofChecks, ...ofVisits].sort((a, b) => a.at - b.at);
}

const newestOf = (part: Service["part"], { services, rig }: BeforeFacts): number =>
  Math.max(
    -Infinity,
    ...services.filter((each) => each.part === part && each.rigId === rig.id).map((each) => time(each.at)),
  );

/** Pairs that tell what is usual, at least, and at most; and the newest that must both be above it. */
const USUAL_FROM = 3;
const USUAL_OF = 7;
const NEWEST = 2;

/** A membrane that lets half as much again through as it usually did since it was new or cleaned, twice running. */
function climbingOf(facts: BeforeFacts): BeforeResin["climbing"] {
  const all = passagesRead(facts);
  const renewed = Math.max(newestOf("membrane", facts), ...all.filter(({ isClean }) => isClean).map(({ at }) => at));
  const since = all.filter(({ at }) => at >= renewed);
  const [earlier, newest] = [since.slice(0, -NEWEST), since.slice(-NEWEST)];
  // A clean check is a usual by itself; else it takes a few.
  const isKnown = earlier.length >= USUAL_FROM || earlier.some(({ isClean }) => isClean);
  if (!isKnown || newest.length < NEWEST) return undefined;
  const usual = median(earlier.slice(0, USUAL_OF).map(({ passage }) => passage));
  const last = newest[newest.length - 1]!;
  return newest.every(({ passage }) => passage >= PASSAGE_UP * usual)
    ? { passage: last.passage, usual, at: last.at }
    : undefined;
}

/** mg/L behind the carbon from which it lets through: what a strip shows first. */
export const CHLORINE_FROM = 0.1;

/** When chlorine was last found behind the carbon; nothing once a new cartridge stands there or a later look found none. */
function chlorineOf(facts: BeforeFacts): number | undefined {
  const { rig, membraneChecks, pressureChecks } = facts;
  const looks = [
    ...pressureChecks.flatMap(({ rigId, at, chlorine }) =>
      rigId === rig.id && chlorine !== undefined ? [{ at: time(at), found: chlorine >= CHLORINE_FROM }] : [],
    ),
    ...membraneChecks.flatMap(({ rigId, at, seen }) => {
      const found = seen?.["chlorine-behind-carbon"];
      return rigId === rig.id && found !== undefined ? [{ at: time(at), found }] : [];
    }),
  ].sort((a, b) => a.at - b.at);
  const last = looks[looks.length - 1];
  return last?.found && last.at > newestOf("carbon", facts) ? last.at : undefined;
}

/**
 * What stands before the resin and asks for a hand: chlorine that gets past the carbon, where it eats a membrane or kills
 * what swims behind it, and a membrane that climbs above its own usual.
 */
export function beforeResin(facts: BeforeFacts): BeforeResin {
  const { rig } = facts;
  const isHarmed = hasMembrane(rig) || rig.use === "aquarium";
  const chlorineAt = isHarmed ? chlorineOf(facts) : undefined;
  const climbing = hasMembrane(rig) ? climbingOf(facts) : undefined;
  return { ...(chlorineAt === undefined ? {} : { chlorineAt }), ...(climbing ? { climbing } : {}) };
}
