import {
  asOfNow,
  chargesAsOfNow,
  countedOf,
  isFarAhead,
  knownWork,
  Trains,
  type Arrangement,
  type Charge,
  type FeedTest,
  type Id,
  type MembraneCheck,
  type Meter,
  type PressureCheck,
  type PriceList,
  type Rig,
  type Service,
  type Tap,
  type Vessel,
  type Visit,
  type WaterReport,
  type WorkBook,
} from "@winter-bead/core";
import { inBooks, type RigFacts } from "./assess";

/** What the facts of the rigs are made of, in the order in which they are compared. */
export type FactLists = readonly [
  rigs: readonly Rig[],
  vessels: readonly Vessel[],
  taps: readonly Tap[],
  meters: readonly Meter[],
  charges: readonly Charge[],
  visits: readonly Visit[],
  feedTests: readonly FeedTest[],
  reports: readonly WaterReport[],
  arrangements: readonly Arrangement[],
  priceLists: readonly PriceList[],
  membraneChecks?: readonly MembraneCheck[],
  pressureChecks?: readonly PressureCheck[],
  services?: readonly Service[],
];

/** The vessel whose product is what the tool gets: the last that holds a charge, else the last that stands or stood there. */
function lastVessel(standing: readonly Vessel[], ever: readonly Vessel[], charges: readonly Charge[]) {
  const isFilled = ({ id }: Vessel) => charges.some((each) => each.vesselId === id && each.ended === undefined);
  return standing.filter(isFilled).pop() ?? standing[standing.length - 1] ?? ever[ever.length - 1];
}

/** The facts of every rig, from whole lists of records. */
export function gather(lists: FactLists, book: WorkBook, now: number): readonly RigFacts[] {
  const [rigs, vessels, taps, meters, allCharges, allVisits, allTests, reports, allArrangements, priceLists] = lists;
  const [, , , , , , , , , , membraneChecks = [], pressureChecks = [], services = []] = lists;
  const counted = countedOf(now, [allVisits, allTests, allArrangements], allCharges);
  const [visits, feedTests, arrangements] = [
    asOfNow(allVisits, now, counted),
    asOfNow(allTests, now, counted),
    asOfNow(allArrangements, now, counted),
  ];
  const charges = chargesAsOfNow(allCharges, now, counted);
  const prices = priceLists.reduce<PriceList | undefined>(
    (last, each) => (last && last.setOn > each.setOn ? last : each),
    undefined,
  )?.prices;
  const trains = new Trains(arrangements);
  const byTime = [...visits].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  const byFilling = [...charges].sort((a, b) => Date.parse(a.filledAt) - Date.parse(b.filledAt));
  const vesselById = new Map<Id, Vessel>(vessels.map((vessel) => [vessel.id, vessel]));
  return rigs.flatMap((rig): RigFacts[] => {
    const linked = trains.linkedTo(rig.id);
    const known = (ids: Iterable<Id>) => [...ids].flatMap((id) => vesselById.get(id) ?? []);
    const ever = known(new Set([...linked].flatMap((id) => [...trains.everIn(id)])));
    const here = ever.filter(({ id }) => trains.everIn(rig.id).has(id));
    const standing = trains.at(rig.id, now).map(({ vesselId }) => vesselId);
    const vessel = lastVessel(known(standing), here, charges);
    if (!vessel) return [];
    const isOwn = (charge: Charge) => charge.rigId === rig.id || standing.includes(charge.vesselId);
    const isElsewhere = ({ rigId }: { readonly rigId: Id }) => rigId !== rig.id && linked.has(rigId);
    const own = {
      ...{ rig, vessel, taps, meters, feedTests, reports, now, prices },
      train: {
        rigs: rigs.filter(({ id }) => linked.has(id)),
        vessels: ever,
        arrangements: arrangements.filter(({ rigId }) => linked.has(rigId)),
      },
      upkeep: {
        membraneChecks: asOfNow(membraneChecks, now).filter(({ rigId }) => rigId === rig.id),
        pressureChecks: asOfNow(pressureChecks, now).filter(({ rigId }) => rigId === rig.id),
        services: asOfNow(services, now).filter(({ rigId }) => rigId === rig.id),
      },
      visits: byTime.filter((visit) => visit.rigId === rig.id),
      ahead: allVisits.filter((visit) => visit.rigId === rig.id && isFarAhead(visit.at, now)),
      charges: byFilling.filter(isOwn),
      elsewhere: {
        visits: byTime.filter(isElsewhere),
        charges: byFilling.filter((charge) => isElsewhere(charge) && !isOwn(charge)),
      },
    };
    return [{ ...own, bookings: knownWork(inBooks(own), book) }];
  });
}
