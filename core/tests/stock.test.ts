import { runs } from "./runs";
import fc from "fast-check";
import type { Bag, Charge } from "../src/index";
import {
  bagLeft,
  bagWorth,
  bestBags,
  commonOffers,
  explainSize,
  explainWorth,
  fitting,
  frostAndSun,
  inOrderOfUse,
  meterChecks,
  ordersFor,
  partsOf,
  refillFrom,
  spentWaiting,
  stockOf,
  storedAs,
  upkeepOf,
  usualCartridge,
  worthOf,
  type Seen,
} from "../src/weeks";
import { storageFactor, unwrap } from "../src/index";
import { expectTrue } from "./explained";
import { chargeOf, factsOf, stagesOf } from "./told";

const dateOf = (at: number) => new Date(at).toISOString().slice(0, 10);
const today = "2027-09-01";
const bag = (more: Partial<Bag> = {}): Bag => ({
  ...{ id: "bag", name: "Sack", form: "loose", grade: "virgin", litres: 25 },
  ...{ madeOn: "2027-01-01", boughtOn: "2027-01-01", packing: "foil", warm: false },
  ...more,
});
const filled = (on: string, from: Charge["from"], more: Partial<Charge> = {}): Charge => ({
  ...chargeOf({}),
  id: `charge ${on} ${JSON.stringify(from)}`,
  filledAt: `${on}T08:00:00.000Z`,
  ...(from ? { from } : {}),
  ...more,
});
const stock = (bags: readonly Bag[], charges: readonly Charge[] = []) => stockOf({ bags, charges, today, dateOf });

describe("what a bag is worth", () => {
  test("open eight months in a van it is 0.72 of a fresh one", () => {
    const open = bag({ openedOn: "2027-01-01", closed: "rolled-or-zip", warm: true });
    expect(bagWorth(open, today).share.typical).toBeCloseTo(0.72, 2);
  });
  test("sealed in foil it loses half a percent a month, in film three", () => {
    expect(bagWorth(bag(), today).share.typical).toBeCloseTo(0.995 ** 7.98, 3);
    expect(bagWorth(bag({ packing: "film" }), today).share.typical).toBeCloseTo(0.97 ** 7.98, 3);
  });
  test("of unknown age is a range, and the seller is to be asked", () => {
    const { share, ageUnknown } = bagWorth(bag({ madeOn: undefined, packing: "film" }), today);
    expect(ageUnknown).toBe(true);
    expect(share.low).toBeLessThan(share.typical);
    expect(share.typical).toBeLessThan(share.high);
    // Nothing, three months, or a year at the seller, and eight here.
    expect(share.high).toBeCloseTo(0.97 ** 7.984, 4);
    expect(share.typical).toBeCloseTo(0.97 ** 10.984, 4);
    expect(share.low).toBeCloseTo(0.97 ** 19.984, 4);
    expect(bagWorth(bag(), today).share).toMatchObject({ low: bagWorth(bag(), today).share.high });
  });
});

test("what a bag is worth explains itself, of known and of unknown age, in the warm and in the cool", () => {
  for (const each of [
    bag(),
    bag({ madeOn: undefined }),
    bag({ openedOn: "2027-03-01", closed: "left-open", warm: true }),
  ])
    expectTrue(explainWorth({ bag: each, worth: bagWorth(each, today) }));
});

describe("what is left of a bag", () => {
  test("is what was bought less what went into vessels; a count counts in its place", () => {
    const charges = [
      filled("2027-02-01", [{ bagId: "bag", litres: 11 }]),
      filled("2027-05-01", [{ bagId: "bag", litres: 4 }]),
    ];
    expect(bagLeft(bag(), { charges, dateOf })).toBe(10);
    expect(bagLeft(bag({ counted: { on: "2027-03-01", litres: 9 } }), { charges, dateOf })).toBe(5);
    expect(bagLeft(bag({ gone: { on: "2027-06-01", why: "spilled" } }), { charges, dateOf })).toBe(0);
  });
  test("falls below nothing where more was taken than it held, so that it is seen", () => {
    expect(
      bagLeft(bag({ litres: 10 }), { charges: [filled("2027-02-01", [{ bagId: "bag", litres: 12 }])], dateOf }),
    ).toBe(-2);
  });
  test("adds up after every act: bought is left and taken, whatever was filled, taken back or filled again", () => {
    const acts = fc.array(
      fc.record({
        does: fc.constantFrom("fill" as const, "take-back" as const),
        bag: fc.integer({ min: 0, max: 2 }),
        litres: fc.double({ min: 0.1, max: 9, noNaN: true }),
        which: fc.nat(20),
      }),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(acts, (told) => {
        const bags = [0, 1, 2].map((i) => bag({ id: `bag${i}`, litres: 25 }));
        let charges: Charge[] = [];
        for (const [i, { does, bag: nth, litres, which }] of told.entries()) {
          if (does === "fill")
            charges = [...charges, filled("2027-02-02", [{ bagId: `bag${nth}`, litres }], { id: `c${i}` })];
          else charges = charges.filter((_, at) => at !== which);
          const standing = stock(bags, charges);
          const taken = charges.flatMap(({ from = [] }) => from).reduce((sum, each) => sum + each.litres, 0);
          expect(standing.reduce((sum, { left }) => sum + left, 0)).toBeCloseTo(75 - taken, 9);
          for (const { left, taken: out } of standing)
            expect(left + out.reduce((sum, each) => sum + each.litres, 0)).toBeCloseTo(25, 9);
        }
      }),
      { numRuns: runs(60) },
    );
  });
});

describe("what a refill takes", () => {
  const open = bag({ id: "open", litres: 8, openedOn: "2027-06-01", closed: "rolled-or-zip" });
  const sealed = bag({ id: "sealed" });
  test("open bags first, the oldest of them before the others", () => {
    const older = bag({ id: "older", openedOn: "2027-03-01" });
    expect(inOrderOfUse(stock([sealed, open, older])).map((each) => each.bag.id)).toEqual(["older", "open", "sealed"]);
  });
  test("the rest from the next one, and the mixture counts with what each is worth", () => {
    const shelf = stock([sealed, open]);
    const { portions, missing } = refillFrom(shelf, "virgin", 11.5);
    expect(portions).toEqual([
      { bagId: "open", litres: 8 },
      { bagId: "sealed", litres: 3.5 },
    ]);
    expect(missing).toBe(0);
    const worth = worthOf(portions, shelf);
    // 8 L sealed five months, then open three; 3.5 L sealed eight.
    const [open_, sealed_] = [0.995 ** 4.961 * 0.98 ** 3.023, 0.995 ** 7.983];
    expect(worth).toBeCloseTo((8 * open_ + 3.5 * sealed_) / 11.5, 4);
    expect(unwrap(storageFactor(storedAs(portions, shelf)!))).toBeCloseTo(worth, 9);
  });
  test("says what is missing, and never takes another grade, a cartridge, or what is too weak", () => {
    expect(refillFrom(stock([open]), "virgin", 11.5).missing).toBeCloseTo(3.5, 9);
    expect(refillFrom(stock([open, bag({ id: "d", grade: "dyed" })]), "virgin", 11.5).portions).toHaveLength(1);
    expect(refillFrom(stock([bag({ form: "cartridge" })]), "virgin", 1).portions).toEqual([]);
    // Left open for five months it is worth 0.65, for seven 0.55: less than six tenths is no resin for a refill.
    const leftOpen = (openedOn: string) => bag({ openedOn, closed: "left-open" });
    expect(refillFrom(stock([leftOpen("2027-04-01")]), "virgin", 5).portions).toHaveLength(1);
    expect(refillFrom(stock([leftOpen("2027-02-01")]), "virgin", 5).portions).toEqual([]);
    expect(
      ordersFor(
        [{ rigId: "r", kind: "screw-head-tank", grade: "virgin", litres: 5, on: today }],
        stock([leftOpen("2027-02-01")]),
        0,
      ),
    ).toHaveLength(1);
  });
  test("into a housing a ready-filled cartridge of its size, as a whole, before loose resin", () => {
    const cartridge = bag({ id: "cartridge", form: "cartridge", litres: 1.6 });
    const shelf = stock([open, cartridge]);
    expect(refillFrom(fitting(shelf, { kind: "cartridge" }), "virgin", 1.5)).toEqual({
      portions: [{ bagId: "cartridge", litres: 1.5 }],
      missing: 0,
    });
    expect(refillFrom(fitting(shelf, { kind: "screw-head-tank" }), "virgin", 1.5).portions[0]!.bagId).toBe("open");
    // 1.6 L are too little for 2.1, and too much for 1.35; give or take a fifth and a seventh they fit.
    const from = (fill: number) => refillFrom(shelf, "virgin", fill).portions.map(({ bagId }) => bagId);
    expect([2.1, 1.95, 1.4, 1.35].map(from)).toEqual([["open"], ["cartridge"], ["cartridge"], ["open"]]);
    const used = stock([cartridge], [filled("2027-08-01", [{ bagId: "cartridge", litres: 1.5 }])]);
    expect(used[0]!.left).toBe(0);
    const twice = [1, 2].map((i) => filled("2027-08-01", [{ bagId: "cartridge", litres: 1.5 }], { id: `c${i}` }));
    expect(stock([cartridge], twice)[0]!.left).toBeCloseTo(-1.4, 9);
  });
});

test("spent resin waits until it is taken away", () => {
  const ended = filled("2027-02-01", undefined, {
    resinLitres: 24,
    ended: { at: "2027-05-01T08:00:00.000Z", why: "limit" },
  });
  const facts = { bags: [bag()], charges: [ended], today, dateOf };
  expect(spentWaiting(facts, [])).toBe(24);
  expect(spentWaiting(facts, [{ id: "d", on: "2027-06-01", litres: 20, to: "yard" }])).toBe(4);
  expect(spentWaiting({ ...facts, bags: [] }, [])).toBe(0);
});

describe("which bag to buy", () => {
  const offers = [
    { form: "loose" as const, litres: 25, price: 200 },
    { form: "loose" as const, litres: 5, price: 48 },
  ];
  const ask = { fill: 5, everyMonths: 1, closed: "rolled-or-zip" as const, warm: false, delivery: 0 };
  test("is the large one where it is used up soon, the small one where rests would age", () => {
    expect(bestBags(offers, ask)[0]!.litres).toBe(25);
    expect(bestBags(offers, { ...ask, everyMonths: 10, closed: "left-open", warm: true })[0]!.litres).toBe(5);
  });
  test("a rest that would wait for more than a year speaks against its size, whatever it costs", () => {
    const sizes = (everyMonths: number) => bestBags(offers, { ...ask, fill: 2.5, everyMonths });
    // Ten refills out of the large one: the last rest is 9 × 1.3 months old, or 9 × 1.4.
    expect(sizes(1.3).map(({ litres }) => litres)).toEqual([25, 5]);
    expect(sizes(1.4).map(({ litres }) => litres)).toEqual([5, 25]);
  });
  test("over two years: each portion by its age, and the last rest at what it will be worth", () => {
    const [large] = bestBags(offers.slice(0, 1), { ...ask, everyMonths: 6 });
    const fresh = [0, 6, 12, 18, 24].reduce((sum, months) => sum + 5 * 0.98 ** months, 0);
    expect(large!.perFreshLitre).toBeCloseTo(200 / fresh, 9);
    expect([large!.bags, large!.oldestMonths]).toEqual([1, 18]);
    expect(commonOffers(9).map(({ litres, price }) => [litres, Number(price.toFixed(2))])).toEqual([
      [5, 60.75],
      [10, 106.2],
      [25, 225],
    ]);
  });
  test("a cartridge leaves no rest and is dearer by the litre: it pays where rests would spoil", () => {
    const housing = { ...ask, fill: 1.5, everyMonths: 12, closed: "left-open" as const, warm: true };
    const cartridge = usualCartridge(9, 1.5);
    expect(cartridge).toEqual({ form: "cartridge", litres: 1.5, price: expect.closeTo(24.3, 9) as number });
    const [best] = bestBags([...commonOffers(9), cartridge], housing);
    expect(best).toMatchObject({ form: "cartridge", worth: 1, oldestMonths: 0, bags: 2 });
    expect(best!.perFreshLitre).toBeCloseTo(24.3 / 1.5, 9);
    expect(bestBags([cartridge], { ...housing, delivery: 6 })[0]!.perFreshLitre).toBeCloseTo(30.3 / 1.5, 9);
    expect(
      bestBags([...commonOffers(9), cartridge], { ...housing, everyMonths: 1, closed: "sealed-foil" })[0]!.form,
    ).toBe("loose");
  });
  test("each explains itself, of bags and of cartridges, of own prices and of assumed ones", () => {
    const season = { ...ask, everyMonths: 3, delivery: 8 };
    for (const size of bestBags([{ ...offers[0]!, isOwn: true }, offers[1]!, usualCartridge(9, 5)], season))
      expectTrue(explainSize(size, season, "EUR"));
    const [one] = bestBags([usualCartridge(9, 5)], season);
    expect(explainSize(one!, season, "EUR").inputs.map(({ value }) => value)).toEqual([8, 81, 8, 8, 40]);
  });
  test("a delivery for each bag speaks for the large one", () => {
    const small = (delivery: number) =>
      bestBags(offers, { ...ask, delivery }).find(({ litres }) => litres === 5)!.perFreshLitre;
    expect(small(20) - small(0)).toBeCloseTo(4, 1);
  });
});

describe("what to order", () => {
  const wanted = (on: string, litres: number, grade: "virgin" | "dyed" = "virgin") => ({
    rigId: `rig ${on}`,
    kind: "screw-head-tank" as const,
    grade,
    litres,
    on,
  });
  test("is what the shelf does not hold, before the refill less the delivery", () => {
    const [order] = ordersFor([wanted("2027-09-20", 24)], stock([bag({ litres: 10 })]), 4);
    expect(order).toMatchObject({ by: "2027-09-16" });
    expect(order!.lines[0]!.litres).toBeCloseTo(14, 9);
    expect(ordersFor([wanted("2027-09-20", 24)], stock([bag()]), 4)).toEqual([]);
  });
  test("comes with one delivery where the days lie close, and the earliest counts", () => {
    const orders = ordersFor(
      [wanted("2027-09-25", 12, "dyed"), wanted("2027-09-20", 24), wanted("2027-10-20", 24)],
      [],
      4,
    );
    const daysApart = (days: string) => ordersFor([wanted("2027-09-20", 24), wanted(days, 24)], [], 4).length;
    expect([daysApart("2027-09-27"), daysApart("2027-09-28")]).toEqual([1, 2]);
    expect(orders.map(({ by, lines }) => [by, lines.map(({ grade }) => grade)])).toEqual([
      ["2027-09-16", ["virgin", "dyed"]],
      ["2027-10-16", ["virgin"]],
    ]);
  });
  test("of a housing is the cartridges that the shelf does not hold, in the form last bought", () => {
    const housing = (on: string) => ({ ...wanted(on, 1.5), kind: "cartridge" as const });
    const cartridge = (boughtOn: string, id = "k") => bag({ id, form: "cartridge", litres: 1.5, boughtOn });
    const months = ["2027-09-20", "2027-09-22", "2027-09-24"].map(housing);
    const [order] = ordersFor(months, stock([bag({ litres: 20, boughtOn: "2027-01-01" }), cartridge("2027-05-01")]), 4);
    // One stands on the shelf; loose resin that is there is for the others.
    expect(order).toBeUndefined();
    const gone = bag({ litres: 20, boughtOn: "2027-01-01", gone: { on: "2027-02-01", why: "given" } });
    const [cartridges] = ordersFor(months, stock([gone, cartridge("2027-05-01")]), 4);
    expect(cartridges!.lines).toMatchObject([{ form: "cartridge", grade: "virgin", litres: 3, by: "2027-09-18" }]);
    expect(cartridges!.lines[0]!.for).toHaveLength(2);
    const [loose] = ordersFor(months, stock([{ ...gone, boughtOn: "2027-06-01" }, cartridge("2027-05-01")]), 4);
    expect(loose!.lines).toMatchObject([{ form: "loose", litres: 3 }]);
  });
});

describe("upkeep", () => {
  const { rig } = factsOf({
    outputs: [],
    stages: stagesOf({ kind: "sediment" }, { kind: "carbon" }, { kind: "membrane", rejection: 0.95 }),
  });
  const quiet: Seen = { litresSince: () => 0, litresPerWeek: 300 };
  const service = (part: "sediment" | "carbon" | "membrane" | "strainer", on: string, more: object = {}) => ({
    ...{ id: part, rigId: "rig", part, at: `${on}T08:00:00.000Z` },
    ...more,
  });
  const due = (services: readonly ReturnType<typeof service>[], seen: Seen = quiet) =>
    Object.fromEntries(
      upkeepOf({ rig, services, charges: [chargeOf({})], seen, today, dateOf }).map((each) => [each.task, each]),
    );

  test("is of the parts that the train has, of seals and the strainer", () => {
    expect(partsOf(rig)).toEqual(["sediment", "carbon", "membrane", "seals", "strainer"]);
    expect(partsOf(factsOf({ outputs: [] }).rig)).toEqual(["seals", "strainer"]);
  });
  test("is due after its months, of which a crew may say its own, and of the unknown nobody can say", () => {
    const found = due([service("sediment", "2027-03-02"), service("carbon", "2027-03-02", { everyMonths: 3 })]);
    expect(found["sediment"]).toMatchObject({ on: "2027-09-01", because: "months", months: 6, last: "2027-03-02" });
    expect(found["carbon"]!.on).toBe("2027-06-01");
    expect(found["membrane"]).toMatchObject({ because: "unknown" });
    expect(found["membrane"]!.on).toBeUndefined();
    expect(found["seals"]!.last).toBe("2027-03-01");
  });
  test("each part has its usual months", () => {
    const every = (["sediment", "carbon", "membrane", "strainer"] as const).map((part) => service(part, "2027-03-02"));
    const found = due(every);
    const on = ["sediment", "carbon", "membrane", "seals", "strainer"].map((part) => found[part]!.on);
    expect(on).toEqual(["2027-09-01", "2027-09-01", "2030-03-02", "2028-02-29", "2027-06-01"]);
  });
  test("carbon is due when its chlorine is used, if that comes first", () => {
    const carbon = service("carbon", "2027-08-01", { chlorineGrams: 4 });
    const seen = { ...quiet, chlorine: 1.6, litresSince: () => 1900 };
    expect(due([carbon], seen)["carbon"]).toMatchObject({ because: "chlorine", on: "2027-09-15" });
    expect(due([carbon], seen)["carbon"]!.usedShare).toBeCloseTo(0.76, 9);
    expect(due([carbon], { ...seen, litresSince: () => 9000 })["carbon"]).toMatchObject({ on: today });
  });
  test("carbon that lets chlorine through is due today, whatever its share says; a new one starts afresh", () => {
    const carbon = service("carbon", "2027-08-01", { chlorineGrams: 4 });
    const seen = { ...quiet, chlorine: 1.6, litresSince: () => 1900, chlorinePassedOn: "2027-08-20" };
    expect(due([carbon], seen)["carbon"]).toMatchObject({ because: "passed", on: today, last: "2027-08-01" });
    expect(due([service("carbon", "2027-08-21")], seen)["carbon"]).toMatchObject({ because: "months" });
    expect(due([], seen)["carbon"]).toMatchObject({ because: "passed", on: today });
  });
  test("pressure first: a worn membrane is told of once the cartridge before it is new", () => {
    const old = [service("sediment", "2027-07-01"), service("membrane", "2026-01-01")];
    const seen = { ...quiet, pressureFellOn: "2027-08-20", membraneWornOn: "2027-08-20" };
    expect(due(old, seen)["sediment"]).toMatchObject({ because: "pressure", on: today });
    expect(due(old, seen)["membrane"]).toMatchObject({ because: "months" });
    const mended = [service("sediment", "2027-08-25"), service("membrane", "2026-01-01")];
    expect(due(mended, { ...seen, membraneWornOn: "2027-08-28" })["membrane"]).toMatchObject({ because: "rejection" });
  });
  test("gauges have the last word on a sediment cartridge: changed from 50 kPa lost across it on", () => {
    const old = [service("sediment", "2027-07-01"), service("membrane", "2026-01-01")];
    const read = (kPa: number, on = "2027-08-22") => ({ ...quiet, drop: { on, kPa }, membraneWornOn: "2027-08-20" });
    expect(due(old, read(50))["sediment"]).toMatchObject({ because: "pressure", on: today, drop: { kPa: 50 } });
    expect(due(old, read(50))["membrane"]).toMatchObject({ because: "months" });
    expect(due(old, read(49))["sediment"]).toMatchObject({ because: "months" });
    expect(due(old, read(49))["membrane"]).toMatchObject({ because: "rejection" });
    // Seen to fall before the gauges were read, and after; gauges of the cartridge before tell nothing of this one.
    expect(due(old, { ...read(20), pressureFellOn: "2027-08-20" })["sediment"]).toMatchObject({ because: "months" });
    expect(due(old, { ...read(20), pressureFellOn: "2027-08-24" })["sediment"]).toMatchObject({ because: "pressure" });
    expect(due([service("sediment", "2027-08-23")], read(90))["sediment"]).toMatchObject({ because: "months" });
    // Of one that nobody noted as new they speak too, and so does a worn membrane.
    expect(due([], read(90))["sediment"]).toMatchObject({ because: "pressure", on: today });
    expect(due([], read(10))["sediment"]).toMatchObject({ because: "unknown" });
    expect(due([], read(10))["membrane"]).toMatchObject({ because: "rejection", on: today });
    expect(due([], read(90))["membrane"]).toMatchObject({ because: "unknown" });
  });
  test("a meter is checked every half year; a retired one never", () => {
    const meter = { id: "m", name: "Pen", scale: "nacl" as const, compensated: true };
    expect(meterChecks([{ ...meter, checkedOn: "2027-03-02" }])[0]).toMatchObject({ on: "2027-09-01" });
    expect(meterChecks([meter])[0]).toMatchObject({ because: "unknown" });
    expect(meterChecks([{ ...meter, retiredOn: "2027-01-01" }])).toEqual([]);
  });
});

test("frost and sun are told by the water's own temperature, and nothing where nobody read one lately", () => {
  const now = Date.parse("2027-09-01T12:00:00Z");
  const test = (temperature: number, at = "2027-08-30T08:00:00.000Z") => ({
    ...{ id: "f", tapId: "tap", at, scale: "nacl" as const, value: 100, temperature },
  });
  const words = (tests: readonly ReturnType<typeof test>[]) =>
    frostAndSun({ visits: [], feedTests: tests }, now).join(" ");
  expect(words([test(4)])).toMatch(/frost/);
  expect(words([test(25)])).toMatch(/40 °C/);
  expect(words([test(14)])).toBe("");
  expect([words([test(7)]), words([test(7.5)])]).toEqual([expect.stringMatching(/frost/), ""]);
  expect([words([test(22)]), words([test(21.5)])]).toEqual([expect.stringMatching(/40 °C/), ""]);
  expect(words([test(4, "2027-08-12T08:00:00.000Z")])).toMatch(/frost/);
  expect(words([test(4, "2027-08-10T08:00:00.000Z")])).toBe("");
  expect(words([test(4, "2027-06-01T08:00:00.000Z")])).toBe("");
});
