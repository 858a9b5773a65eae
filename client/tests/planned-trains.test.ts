import { unwrap, type Arrangement, type Charge, type Plan, type Tap, type Visit } from "@winter-bead/core";
import { BEFORE, optionFigures, planQuestion, planOutcome, TRAINS, GENERIC_SIZES } from "@winter-bead/core/src/sizing";
import { DEFAULT_PRICES } from "@winter-bead/core/src/sizing";
import { buildRig } from "../features/size/build-rig";
import { planBody } from "../features/size/keep-plan";
import { planActual } from "../features/size/rig-log";
import { parseWork, startWork, watersOf } from "../features/size/work-as-typed";
import { assess } from "../features/rack/assess";
import { gather } from "../features/rack/gather";
import { vesselsHere } from "../features/rack/train-views";
import { placesAfter } from "../features/setup/place-after";
import { complaintsAbout } from "./complaints";

const TAP: Tap = {
  ...{ id: "01890000-0000-7000-8000-000000000001", siteId: "01890000-0000-7000-8000-000000000002", name: "Yard tap" },
  ...{ low: 150, typical: 168, high: 192, scale: "nacl", ph: 7.3, alkalinity: 118 },
};
const DAY = 86_400_000;
const START = Date.UTC(2027, 0, 4, 8);
const iso = (at: number) => new Date(at).toISOString();
let made = 0;
const newId = () => `01890000-0000-7000-8000-${(made += 1).toString(16).padStart(12, "0")}`;

const work = parseWork(
  startWork("metric"),
  { waters: watersOf(TAP, {}), prices: DEFAULT_PRICES, own: [] },
  "metric",
).input!;
const tank = GENERIC_SIZES.find(({ name }) => name === "Tank")!;
const question = unwrap(planQuestion(work));

/** The plan of each train behind each of what may stand before it; nothing where it can't do the work. */
const plans = TRAINS.flatMap((train) =>
  BEFORE.flatMap((before): Plan[] => {
    const spec = { vessel: tank, train, before, grade: "virgin", supply: "bag" } as const;
    const option = optionFigures(spec, question);
    if (!option.ok) return [];
    const parts = {
      option: option.value,
      demand: question.demand,
      work,
      tap: TAP,
      use: "glass",
      currency: "EUR",
    } as const;
    return [{ id: newId(), ...planBody({ ...parts, now: new Date(START) }) }];
  }),
);

/** A year of a planned rig as it was meant: its water each work-day, refilled or rotated when a charge has given what was expected. */
function liveAYear(plan: Plan) {
  const { rig, vessels, arrangement, charges: first } = buildRig(plan, newId, new Date(START));
  const daily = plan.expected.week.typical / 5;
  const visits: Visit[] = [];
  const charges: Charge[] = [...first];
  const arrangements: Arrangement[] = [arrangement];
  let places = arrangement.places;
  let [given, total] = [0, 0];
  for (let day = 0; day < 364; day += 1) {
    if (day % 7 > 4) continue;
    const at = START + day * DAY + 4 * 3_600_000;
    total += daily;
    given += daily;
    visits.push({
      ...{ id: newId(), rigId: rig.id, tapId: TAP.id, at: iso(at), readings: [] },
      water: { by: "jobs", jobs: 1, litresPerJob: daily },
    });
    if (given < plan.expected.litres.typical) continue;
    given = 0;
    const emptied = places.find(({ vesselId }) => vesselId !== undefined)!.vesselId!;
    const open = charges.findIndex(({ vesselId, ended }) => vesselId === emptied && ended === undefined);
    const then = iso(at + 3_600_000);
    charges[open] = { ...charges[open]!, ended: { at: then, why: "limit" } };
    const { ended: _, ...again } = charges[open]!;
    charges.push({ ...again, id: newId(), filledAt: then });
    if (places.length < 2) continue;
    places = placesAfter(places, emptied, emptied, "end");
    arrangements.push({ id: newId(), rigId: rig.id, at: then, did: "rotated", places });
  }
  const facts = gather(
    [[rig], vessels, [TAP], [], charges, visits, [], [], arrangements, []],
    { bookings: [], usualWeeks: [], daysOff: [] },
    START + 364 * DAY,
  )[0]!;
  return { facts, total };
}

test("every train of the planner is there to be built", () => {
  const kinds = new Set(plans.map(({ option }) => `${option.train} ${option.before}`));
  for (const train of TRAINS) expect(kinds).toContain(`${train} nothing`);
  expect(plans.some(({ option }) => option.before === "membrane-and-aeration")).toBe(true);
});

describe.each(plans.map((plan) => [`${plan.option.train}, ${plan.option.before}`, plan] as const))("%s", (_, plan) => {
  test("is built of records that the server takes, each vessel in a place", () => {
    const { vessels, rig, arrangement, charges } = buildRig(plan, newId, new Date(START));
    const bodies = [
      ...vessels.map((each) => ["vessels", each] as const),
      ["rigs", rig] as const,
      ["arrangements", arrangement] as const,
      ...charges.map((each) => ["charges", each] as const),
    ];
    for (const [kind, { id: _id, ...body }] of bodies) expect(complaintsAbout(kind, body)).toEqual([]);
    const resin = rig.stages.filter(({ kind }) => kind === "resin").map(({ id }) => id);
    expect(arrangement.places.map(({ stageId }) => stageId)).toEqual(resin);
    expect(arrangement.places.map(({ vesselId }) => vesselId)).toEqual(vessels.map(({ id }) => id));
  });

  test("runs for a year, and is held against its log rightly", () => {
    const { facts, total } = liveAYear(plan);
    const { because, verdict, beds } = assess(facts);
    expect([because, verdict?.state]).not.toContain("change");
    expect(beds!.map(({ vesselId }) => vesselId)).toEqual(vesselsHere(facts).map(({ id }) => id));
    const actual = planActual({ inUseSince: iso(START - 1000) }, facts)!;
    expect(actual.weeks).toBeCloseTo(52, 1);
    // No litre is counted twice, however many vessels it passes.
    expect(actual.litres).toBeCloseTo(total, 6);
    const { litres } = plan.expected;
    const slack = plan.expected.week.typical / 5;
    for (const each of actual.charges) {
      expect(each).toBeGreaterThanOrEqual(litres.typical - 1e-6);
      expect(each).toBeLessThan(litres.typical + slack + 1e-6);
    }
    expect(actual.chargeSoFar + actual.charges.reduce((sum, each) => sum + each, 0)).toBeCloseTo(total, 6);
    const said = planOutcome(plan.expected, actual);
    expect(said.length).toBeGreaterThan(0);
    for (const { state } of said) expect(state).toBe("as-planned");
  });
});
