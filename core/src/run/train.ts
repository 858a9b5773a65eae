import type { OwnerBelief } from "../belief/owner";
import type { Id } from "../descriptor/identity";
import { fail, succeed, type Result } from "../result";
import type { Place } from "../rig/arrangement.record";
import { rotates } from "../rig/train-edits";
import { Trains } from "../rig/trains";
import type { Reason, State, Verdict } from "../verdict/verdict";
import type { Vessel } from "../vessel/vessel.record";
import { rigLedger, type RigLedger } from "./charge-ledger";
import type { ChargeLedger } from "./ledger-facts";
import type { BeforeResin } from "./before-resin";
import type { Ahead, BedAhead } from "./in-series";
import { learn, lessonsOf, type DatedLesson } from "./lessons";
import { workStanding, type StandingInput, type WorkedStanding } from "./standing";
import { makesProduct, unitsOf } from "./passages";
import type { SpentLead } from "./verdict-words";

/** A charge in use in its place in the train. */
export interface WorkedBed {
  readonly stageId: Id | undefined;
  readonly vessel: Vessel;
  readonly worked: WorkedStanding;
  readonly owner: OwnerBelief;
  /** Its product is what the tool gets: capacity mark, limit and stop point are its own. */
  readonly isLast: boolean;
  /** What is asked of it: of a bed with another behind it only that it is spent, or that a reading is odd. */
  readonly verdict: Verdict;
}

export interface WorkedTrain {
  /** Every place in the order of the flow, empty ones among them; none where one vessel stands alone. */
  readonly places: readonly Place[];
  /** Charges in use, in the order of the flow. */
  readonly beds: readonly WorkedBed[];
  /** The last bed's verdict with the state of those before it. */
  readonly verdict: Verdict;
  readonly books: RigLedger;
  /** What the crew's ended charges taught, by vessel. */
  readonly owners: ReadonlyMap<Id, OwnerBelief>;
}

/** The first of several beds that may change places; none of one alone, nor of cation and anion beds. */
export const leadOf = <T extends Pick<WorkedBed, "worked">>(beds: readonly T[]): T | undefined =>
  beds.length > 1 && rotates(beds.map(({ worked }) => worked.standing.charge)) ? beds[0] : undefined;

const STATES: readonly State[] = ["fine", "watch", "finish", "change"];
const worse = (a: State, b: State): State => (STATES.indexOf(b) > STATES.indexOf(a) ? b : a);

/** From this share of the belief on a bed that nobody reads is called spent. */
const CONVINCED = 0.8;

/** A bed with another behind it: spent asks for rotation, an odd reading to be read again; else it may work on. */
function asLead({ standing: { verdict, limitReached } }: WorkedStanding): Verdict {
  if (verdict.state === "finish" || verdict.state === "change" || limitReached >= CONVINCED)
    return { state: "watch", reasons: ["lead-spent"] };
  return verdict.reasons.includes("odd-reading")
    ? { state: "watch", reasons: ["odd-reading"] }
    : { state: "fine", reasons: [] };
}

const NO_CHARGE: Verdict = { state: "change", reasons: ["no-charge"] };

/** The verdict of a train: of its last beds, and that a bed before them is spent. */
export function trainVerdict(beds: readonly Pick<WorkedBed, "isLast" | "verdict">[]): Verdict {
  const last = beds.filter((each) => each.isLast).map((each) => each.verdict);
  if (last.length === 0) return NO_CHARGE;
  const neediest = last.reduce((most, each) => (worse(most.state, each.state) === most.state ? most : each));
  const before = beds.filter((each) => !each.isLast).flatMap(({ verdict }) => verdict.reasons);
  // A lead above its mark is said even while the last is clean: spent, or to be looked at again.
  const asks = before.includes("lead-spent") ? "lead-spent" : before.includes("odd-reading") ? "lead-odd" : undefined;
  if (!asks) return neediest;
  return { state: worse(neediest.state, "watch"), reasons: [...neediest.reasons, asks] };
}

/** A worked bed as those behind it meet it. */
export const aheadOf = ({ belief, question: { used, loads }, plain }: WorkedStanding): BedAhead => ({
  belief,
  used,
  loads,
  plain,
});

/** A verdict with what stands before the resin: chlorine stops the filling, a climbing membrane is watched. */
export function withBefore({ state, reasons }: Verdict, { chlorineAt, climbing }: BeforeResin): Verdict {
  if (chlorineAt === undefined && !climbing) return { state, reasons };
  return {
    state: worse(state, chlorineAt === undefined ? "watch" : "finish"),
    reasons: [
      ...(chlorineAt === undefined ? [] : (["chlorine"] as const)),
      ...reasons,
      ...(climbing ? (["membrane-climbs"] as const) : []),
    ],
  };
}

interface Hung {
  readonly stageId: Id | undefined;
  readonly vessel: Vessel;
  readonly bed: { readonly charge: ChargeLedger["charge"] };
}

/** Vessels with a charge in use, in the order of the flow, and every place. */
function hung(input: StandingInput): { readonly places: readonly Place[]; readonly inUse: readonly Hung[] } {
  const open = (vesselId: Id) =>
    [...input.charges].reverse().find((charge) => charge.vesselId === vesselId && charge.ended === undefined);
  const { train, rig, vessel, now } = input;
  if (!train) {
    const charge = open(vessel.id);
    return { places: [], inUse: charge ? [{ stageId: undefined, vessel, bed: { charge } }] : [] };
  }
  const places = new Trains(train.arrangements).placesAt(rig.id, now);
  const inUse = places.flatMap(({ stageId, vesselId }): Hung[] => {
    const standing = train.vessels.find(({ id }) => id === vesselId);
    const charge = standing && open(standing.id);
    return standing && charge ? [{ stageId, vessel: standing, bed: { charge } }] : [];
  });
  return { places, inUse };
}

/**
 * Where every charge of a rig stands, each fed by what leaves the one before it, and what the train asks for.
 *
 * @param lessons what the crew's ended charges taught; only this rig's own when absent
 * @returns a fault where a bed's standing can't be worked out; a train without a charge asks to be filled
 */
export function workTrain(asked: StandingInput, lessons?: readonly DatedLesson[]): Result<WorkedTrain> {
  const { places, inUse } = hung(asked);
  const vessels = asked.train?.vessels ?? [asked.vessel];
  const isKnown = vessels.every(({ id }) => asked.owners?.has(id));
  const taught = isKnown ? [] : (lessons ?? lessonsOf(asked));
  const owners = new Map(vessels.map(({ id }) => [id, asked.owners?.get(id) ?? learn(taught, id)]));
  const input: StandingInput = { ...asked, owners };
  const books = rigLedger(input);
  const beds: WorkedBed[] = [];
  let ahead: Ahead = [];
  const units = unitsOf(inUse);
  for (const [u, unit] of units.entries()) {
    const isLast = u === units.length - 1;
    const members: BedAhead[] = [];
    for (const { stageId, vessel } of unit) {
      const owner = owners.get(vessel.id)!;
      const worked = workStanding({ ...input, vessel }, owner, books, ahead);
      if (!worked.ok) return worked;
      const { standing } = worked.value;
      members.push(aheadOf(worked.value));
      const verdict = isLast ? standing.verdict : asLead(worked.value);
      beds.push({ stageId, vessel, worked: worked.value, owner, isLast, verdict });
    }
    if (makesProduct(unit)) ahead = [...ahead, members];
  }
  return succeed({ places, beds, verdict: trainVerdict(beds), books, owners });
}

/** What is to be done where no vessel stands. */
export const HANG_ONE_IN = "No vessel stands in this rig: hang one in.";

/** Whether every place of a train is empty; not so of one vessel that stands alone. */
const isBare = (places: readonly Place[]) =>
  places.length > 0 && places.every(({ vesselId }) => vesselId === undefined);

/** The bed whose product is what the tool gets; of a pair the needier. @returns the fault `no-charge` of an empty train */
export function lastBed({ beds, places }: Pick<WorkedTrain, "beds" | "places">): Result<WorkedBed> {
  const last = beds.filter((each) => each.isLast);
  if (last.length === 0)
    return fail("no-charge", isBare(places) ? HANG_ONE_IN : "No charge is in use: fill the vessel.");
  return succeed(
    last.reduce((most, each) => (worse(most.verdict.state, each.verdict.state) === most.verdict.state ? most : each)),
  );
}

/** The first bed before the last that is spent, else that is to be looked at again, in the order of the flow. */
export function spentLead({ beds }: Pick<WorkedTrain, "beds">): SpentLead | undefined {
  const asking = (reason: Reason) =>
    beds.findIndex(({ verdict, isLast }) => !isLast && verdict.reasons.includes(reason));
  const spent = asking("lead-spent");
  const at = spent >= 0 ? spent : asking("odd-reading");
  const [lead, next] = [beds[at], beds[at + 1]];
  if (!lead || !next) return undefined;
  return { vessel: lead.vessel, standing: lead.worked.standing, next: next.vessel, isOdd: at !== spent };
}
