import { groupsOf } from "../belief/groups";
import { lessonOf, ownerBelief, type EndedChargeFacts, type Lesson, type OwnerBelief } from "../belief/owner";
import { loadUsed } from "../ledger/water-used";
import { Remembered } from "../numerics/remembered";
import type { Id } from "../descriptor/identity";
import type { Vessel } from "../vessel/vessel.record";
import { rigLedger, type RigLedger } from "./charge-ledger";
import type { LedgerFacts } from "./ledger-facts";
import { hydraulicsOf, limitOf, scaleOfCharge } from "./hydraulics";
import { time } from "./readings";

/** A vessel of a rig with its books: what can teach. */
export interface VesselFacts extends LedgerFacts {
  readonly vessel: Vessel;
}

/** A lesson with the moment its charge ended, so that those of a whole crew can be told in their order. */
export interface DatedLesson extends Lesson {
  readonly endedAt: number;
}

/** A crew's ended charges of some years; one lesson is some 15 kB. */
const MOST_LESSONS = 500;
/** By all that it was learnt from: what a charge taught is learnt again only when that changes. */
const taught = new Remembered<Lesson | undefined>(MOST_LESSONS);

/** What was learnt, by what it was learnt from: plain data, to be kept while the app is closed. */
export type Taught = readonly (readonly [from: string, lesson: Lesson | undefined])[];

export const taughtSoFar = (): Taught => taught.entries();
/** Takes back what was kept: of the same arithmetic only, for a lesson is not asked how it came about. */
export const recallTaught = (kept: Taught): void => kept.forEach(([from, lesson]) => taught.of(from, () => lesson));

function lessonOnce(facts: EndedChargeFacts): Lesson | undefined {
  const { scale, ...rest } = facts;
  return taught.of(`${JSON.stringify(rest)} ${scale.tapId} ${scale.key}`, () => lessonOf(facts));
}

/** What the ended charges of a vessel, or of all of a train, teach; those that ended by a fault, began part-used or are left out teach nothing. */
export function lessonsOf(facts: VesselFacts): readonly DatedLesson[] {
  const { owners: _later, ...before } = facts;
  const books = facts.train ? rigLedger(before, ({ ended }) => ended !== undefined) : vesselLedger(before);
  return books.charges.flatMap(({ charge, lines, outputs }): DatedLesson[] => {
    const { ended } = charge;
    if (!ended || ended.why === "fault" || charge.leftOut || charge.partUsed) return [];
    const feedAtEnd = lines[lines.length - 1]?.tapEc25 ?? 0;
    const vessel = facts.train?.vessels.find(({ id }) => id === charge.vesselId) ?? facts.vessel;
    const rig = facts.train?.rigs.find(({ id }) => id === charge.rigId) ?? facts.rig;
    const hydraulics = hydraulicsOf(charge, { ...facts, rig, vessel });
    if (!hydraulics.ok || !(feedAtEnd > 0)) return [];
    const { meq, sd } = loadUsed(lines);
    const lesson = lessonOnce({
      chargeId: charge.id,
      vesselId: charge.vesselId,
      load: meq,
      sd,
      word: ended.why,
      groups: groupsOf(outputs, charge.resinLitres),
      limitEc25: limitOf(vessel),
      scale: scaleOfCharge(vessel, hydraulics.value, feedAtEnd),
    });
    return lesson ? [{ ...lesson, endedAt: time(ended.at) }] : [];
  });
}

/** The books of one vessel of a rig. */
export function vesselLedger(facts: VesselFacts): RigLedger {
  const isOwn = ({ vesselId }: { readonly vesselId: Id }) => vesselId === facts.vessel.id;
  return facts.train ? rigLedger(facts, isOwn) : rigLedger({ ...facts, charges: facts.charges.filter(isOwn) });
}

/** What a crew's ended charges taught of its resin, and of the front in one vessel. */
export function learn(lessons: readonly DatedLesson[], vesselId: Id): OwnerBelief {
  // Rigs that share a vessel both tell of its charges.
  const once = [...new Map(lessons.map((each) => [each.chargeId, each])).values()];
  return ownerBelief(
    once.sort((a, b) => a.endedAt - b.endedAt),
    vesselId,
  );
}
