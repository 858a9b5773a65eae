import type { RecordKind } from "@winter-bead/contract";
import { stageIdAt } from "@winter-bead/core";
import { Chance } from "./chance";
import { tellRefills } from "./refill";
import { tellPlans } from "./plans";
import { METERS, RIGS, SITES, TAPS } from "./places";
import { tellRig } from "./story";
import { tellWeeks } from "./weeks";
import { tellFeedTests, tellMembraneChecks, tellReports, type WaterIds } from "./water";

/** One record of the demo, as a client would send it. */
export interface DemoEntry {
  readonly kind: RecordKind;
  readonly id: string;
  readonly body: object;
}

const DAYS = 152;
const DAY = 86_400_000;
const SEED = 1117;
/** Potassium chloride at 0.01 mol/L, as most bottles of standard solution have it, µS/cm. */
const STANDARD = 1413;

const entry = (kind: RecordKind, { id, ...body }: { readonly id: string }): DemoEntry => ({ kind, id, body });

/**
 * Five months of an invented crew in the invented town of Vellin Quay, ending today: a window-cleaning van, a detailing bay and
 * an aquarium quarantine room. The same for the same moment.
 */
export function demoScenario(now: Date): readonly DemoEntry[] {
  const end = now.getTime();
  const from = Math.floor(end / DAY) * DAY - DAYS * DAY;
  const chance = new Chance(SEED);
  let minute = from - DAY;
  const nextId = () => chance.id((minute += 60_000));

  const sites = SITES.map((site) => ({ id: nextId(), ...site }));
  const taps = TAPS.map(({ site, tap }) => ({
    id: nextId(),
    siteId: sites.find((each) => each.name === site)!.id,
    ...tap,
  }));
  const checkedOn = new Date(end - 40 * DAY).toISOString().slice(0, 10);
  const meters = Object.fromEntries(
    Object.entries(METERS).map(([key, { resolution: _, shownInStandard, ...meter }]) => [
      key,
      { id: nextId(), ...meter, checkedOn, check: { standard: STANDARD, shown: shownInStandard } },
    ]),
  );
  const tapIds = new Map(taps.map((tap) => [tap.name, tap.id]));

  const rigs = RIGS.map((demo, i) => {
    const vessel = { id: nextId(), ...demo.vessel };
    const lags = demo.lag ? [{ id: nextId(), ...demo.vessel, name: demo.lag.name }] : [];
    const places = [vessel, ...lags].map((_, k) => stageIdAt(demo.before.length + k));
    const rig = {
      id: nextId(),
      ...demo.rig,
      tapId: tapIds.get(demo.taps[0]!.name)!,
      stages: [...demo.before, ...places.map((id) => ({ id, kind: "resin" as const }))],
    };
    const vesselIds = [vessel, ...lags].map(({ id }) => id);
    const ids = { rigId: rig.id, vesselIds, stageIds: places, tapIds, meterId: meters[demo.meter]!.id };
    return { vessel, lags, rig, story: tellRig(demo, ids, SEED + 100 * (i + 1), from, end) };
  });
  const water = {
    tapIds,
    meterIds: Object.fromEntries(Object.entries(meters).map(([key, meter]) => [key, meter.id])) as WaterIds["meterIds"],
    rigId: rigs.find(({ rig }) => rig.stages.some((stage) => stage.kind === "membrane"))!.rig.id,
  };
  const rigIds = new Map(rigs.map(({ rig }) => [rig.name, rig.id]));
  const { plans, prices } = tellPlans({ nextId, tapIds, rigIds }, from, end);
  const charges = rigs.flatMap(({ story }) => story.charges);
  const weeks = tellWeeks({ nextId, rigIds }, charges, SEED + 11, end);
  const [van, bay] = [rigs.find(({ rig }) => rig.name === "Van")!, rigs.find(({ rig }) => rig.name === "Bay 2")!];
  const carbon = weeks.services.find(({ part, rigId }) => part === "carbon" && rigId === bay.rig.id)!;
  const filled = weeks.charges.filter(({ rigId, ended }) => rigId === van.rig.id && ended === undefined)[0]!;
  const refills = tellRefills({ nextId, ...van }, filled, { nextId, ...bay }, Date.parse(carbon.at));
  return [
    ...sites.map((each) => entry("sites", each)),
    ...taps.map((each) => entry("taps", each)),
    ...Object.values(meters).map((each) => entry("meters", each)),
    ...rigs.flatMap(({ vessel, lags }) => [vessel, ...lags].map((each) => entry("vessels", each))),
    ...rigs.map(({ rig }) => entry("rigs", rig)),
    ...rigs.flatMap(({ story }) => story.arrangements.map((each) => entry("arrangements", each))),
    ...weeks.bags.map((each) => entry("bags", each)),
    ...weeks.charges.map((each) => entry("charges", each)),
    ...rigs.flatMap(({ story }) => story.visits.map((each) => entry("visits", each))),
    ...tellFeedTests(water, SEED + 7, end).map((each) => entry("feed-tests", each)),
    ...tellReports(water, SEED + 8, end).map((each) => entry("water-reports", each)),
    ...tellMembraneChecks(water, SEED + 9, end).map((each) => entry("membrane-checks", each)),
    ...plans.map((each) => entry("plans", each)),
    entry("price-lists", prices),
    ...weeks.bookings.map((each) => entry("bookings", each)),
    ...weeks.usualWeeks.map((each) => entry("usual-weeks", each)),
    ...weeks.daysOff.map((each) => entry("days-off", each)),
    ...weeks.services.map((each) => entry("services", each)),
    ...weeks.pressureChecks.map((each) => entry("pressure-checks", each)),
    ...refills.map((each) => entry("refill-steps", each)),
    ...weeks.disposals.map((each) => entry("disposals", each)),
    ...weeks.appointments.map((each) => entry("appointments", each)),
  ];
}
