import { MARKS, unwrap, type RefillStep, type Vessel, type VesselKind } from "@winter-bead/core";
import {
  effectsFor,
  guideFor,
  MISTAKE_NAMES,
  practise,
  refillAmounts,
  usualWays,
  worksOf,
  type GuideSetting,
} from "@winter-bead/core/src/refill";
import { beadsIn } from "../features/refill/beads-in";
import { besideRefill, presetOf, readingsOf, toppedUp } from "../features/refill/finish";
import { arrangementAfter, nextInLine } from "../features/setup/place-after";
import {
  allOf,
  mistakeAt,
  mistakesOf,
  practiceInput,
  practiceSteps,
  told,
  USUAL_VESSELS,
} from "../features/refill/practice";
import { foundAsTyped } from "../features/refill/found-as-typed";
import type { Guide } from "../features/refill/useGuide";
import { markAt, placed, vesselShape, type Stance } from "../features/refill/vessel-shape";
import { workIdOf } from "../data/new-id";
import { amountWords, guidedWords, runningWords, sceneWords } from "../features/refill/words";
import { DEFAULT_PRICES } from "@winter-bead/core/src/sizing";
import { aloneIn, charge, vessel as hung } from "./sample-rig";

const KINDS: readonly VesselKind[] = ["screw-head-tank", "inner-seal-bottle", "floated-tank", "cartridge"];
const size = { grossVolume: 14, diameter: 180 };
const paper = { width: 300, height: 320 };

describe("the drawing of a vessel", () => {
  test.each(KINDS)("%s: its beads lie inside it, up to their level, however it stands", (kind) => {
    const shape = vesselShape(kind, size, 260);
    for (const stance of ["upright", "laid", "turned-over"] as const satisfies readonly Stance[]) {
      const few = beadsIn(shape, stance, paper, 0.3, 0.85, 10);
      const many = beadsIn(shape, stance, paper, 1, 0.85, 10);
      expect(few.length).toBeGreaterThan(10);
      expect(many.length).toBeGreaterThan(few.length);
      const corners = [
        { x: shape.middle - shape.body, y: shape.rim },
        { x: shape.middle + shape.body, y: shape.floor },
      ].map((corner) => placed(corner, shape, stance, paper));
      const [left, right] = corners.map(({ x }) => x).sort((a, b) => a - b) as [number, number];
      const [top, bottom] = corners.map(({ y }) => y).sort((a, b) => a - b) as [number, number];
      for (const { x, y } of many) {
        expect(x).toBeGreaterThan(left);
        expect(x).toBeLessThan(right);
        expect(y).toBeGreaterThan(top);
        expect(y).toBeLessThan(bottom);
      }
    }
  });
  test("upright, the topmost beads reach the fill mark and no further", () => {
    const shape = vesselShape("screw-head-tank", size, 260);
    const beads = beadsIn(shape, "upright", paper, 1, 0.8, 10);
    const mark = placed({ x: 0, y: markAt(shape, 0.8) }, shape, "upright", paper).y;
    const top = Math.min(...beads.map(({ y }) => y));
    expect(top).toBeGreaterThanOrEqual(mark - 5);
    expect(top).toBeLessThan(mark + 15);
  });
  test("a wide vessel is drawn wider than a slim one, within what stays readable", () => {
    const width = (diameter: number) => vesselShape("screw-head-tank", { grossVolume: 14, diameter }, 260).width;
    expect(width(220)).toBeGreaterThan(width(160));
    expect(width(20)).toBe(width(30));
    expect(width(900)).toBe(width(1200));
  });
  test("turned over its mouth is down, lying it is at the side", () => {
    const shape = vesselShape("inner-seal-bottle", size, 260);
    const mouth = (stance: Stance) => placed(shape.spots.rim, shape, stance, paper);
    const foot = (stance: Stance) => placed(shape.spots.base, shape, stance, paper);
    expect(mouth("upright").y).toBeLessThan(foot("upright").y);
    expect(mouth("turned-over").y).toBeGreaterThan(foot("turned-over").y);
    expect(mouth("laid").x).toBeGreaterThan(foot("laid").x);
  });
  test("every scene of every guide says in words what it shows", () => {
    for (const kind of KINDS)
      for (const { scene } of guideFor(settingOf(kind)))
        expect(sceneWords(scene)).toMatch(/^The vessel (stands|lies|is)/);
    const empty = guideFor(settingOf("inner-seal-bottle")).find(({ id }) => id === "empty")!;
    expect(sceneWords(empty.scene)).toContain("is turned over, open. riser out, spent beads coming out.");
  });
});

const settingOf = (kind: VesselKind): GuideSetting => ({
  ...{ guided: "refill", kind, ways: usualWays(kind, 0.85), use: "glass", isEmpty: false },
  ...{ behindMembrane: false, isHeavy: true },
});

describe("words of the guide", () => {
  test("what is done, of what", () => {
    expect(guidedWords("refill", "Bay 2")).toBe("Refill Bay 2");
    expect(guidedWords("membrane", "Cart")).toBe("Membrane of Cart");
  });
  test("a running time", () => {
    expect([runningWords(61_000), runningWords(-5_000), runningWords(3_600_000)]).toEqual(["1:01", "0:05", "1:00:00"]);
  });
  test("amounts large, with what they are of, in both unit systems", () => {
    const amounts = refillAmounts({
      vessel: { ...size, emptyWeight: 30 },
      ways: { fillTo: 0.85, scoop: 0.8 },
    });
    expect(amountWords("litres", amounts.litres!, "metric")).toEqual({ big: "11.9 L", small: "of beads" });
    expect(amountWords("litres", amounts.litres!, "us").big).toBe("0.42 ft³");
    expect(amountWords("scoops", amounts.scoops!, "metric").small).toBe("15 scoops");
    expect(amountWords("wet-weight", amounts["wet-weight"]!, "metric").small).toBe("wet: lift with two");
    expect(amountWords("depth-of-fill", amounts["depth-of-fill"]!, "metric").small).toBe("83 mm below");
    expect(amountWords("depth-of-fill", { ...amounts["depth-of-fill"]!, value: 0 }, "us").small).toBe("packed full");
  });
});

const at = (minutes: number) => new Date(Date.parse("2027-03-07T08:00:00.000Z") + 60_000 * minutes).toISOString();
const vessel: Vessel = {
  ...{ id: "v", name: "Tank", kind: "screw-head-tank", ...size, fillFraction: 0.85, marks: MARKS["glass-10"] },
};
const rig = {
  ...{ id: "r", version: 3, voided: false, name: "Van", use: "glass" as const, tapId: "t", flow: 3, jobName: "house" },
  ...{
    litresPerJob: 60,
    stages: [
      { id: "c", kind: "carbon" as const },
      { id: "r", kind: "resin" as const },
    ],
  },
};
/** A guide as far as its finish looks at it. */
function guideWith(guided: RefillStep["guided"], steps: readonly Partial<RefillStep>[]): Guide {
  const records = steps.map((step, i) => ({
    ...{ id: `s${i}`, version: 1, voided: false, workId: "w", guided, rigId: "r", vesselId: "v" },
    ...{ step: "x", outcome: "done" as const, at: at(i) },
    ...step,
  }));
  const setting = { ...settingOf("screw-head-tank"), guided };
  return {
    ...{ id: "w", guided, vessel, setting, steps: guideFor(setting), work: worksOf(records)[0], open: 0, records },
    ...{ charge: undefined, stock: [] },
    facts: {
      rig,
      vessel,
      ...aloneIn(rig, vessel),
      taps: [],
      meters: [],
      visits: [],
      charges: [],
      feedTests: [],
      reports: [],
      now: 0,
    },
  };
}
const now = Date.parse(at(40));

describe("what is kept at the end of the work", () => {
  const done = guideWith("refill", [
    { step: "last-reading", found: { output: { value: 12, scale: "nacl" }, total: 4000 } },
    { step: "fill", at: at(20), found: { resinLitres: 11.2, grade: "dyed" } },
    { step: "seal", at: at(25), found: { newSeals: true } },
    { step: "first-reading", at: at(30), found: { output: { value: 0, scale: "nacl" } } },
  ]);
  test("the last reading belongs to the old charge, the first one to the new", () => {
    const { last, first } = readingsOf(done, now);
    expect(last).toMatchObject({ at: at(0), water: { by: "total", total: 4000 } });
    expect(last!.readings[0]).toMatchObject({ point: "output", value: 12, scale: "nacl" });
    expect(first).toMatchObject({ at: at(30), readings: [expect.objectContaining({ value: 0 })] });
    const { charge } = presetOf(done, vessel, now);
    expect(charge).toMatchObject({ filledAt: at(20), resinLitres: 11.2, grade: "dyed", startTotal: 4000, minutes: 40 });
  });
  test("a last reading that was noted late still lies before the new charge", () => {
    const late = guideWith("refill", [
      { step: "fill", at: at(5) },
      { step: "last-reading", at: at(9), found: { output: { value: 12, scale: "nacl" } } },
    ]);
    expect(Date.parse(readingsOf(late, now).last!.at)).toBe(Date.parse(at(5)) - 1000);
  });
  test("not settled, it lies as it was poured", () => {
    expect(presetOf(done, vessel, now).charge!.packing).toBe("poured");
    const settled = guideWith("refill", [{ step: "settle" }]);
    expect(presetOf(settled, vessel, now).charge!.packing).toBe("settled");
  });
  test("a vessel that was filled weeks ago says so", () => {
    const swap = guideWith("swap", [{ step: "vessel-in", found: { vesselId: "v2", filledOn: "2027-01-07" } }]);
    expect(presetOf(swap, vessel, now).charge!.stored).toMatchObject({ container: "sealed-foil", warm: false });
    expect(presetOf(swap, vessel, now).charge!.stored!.months).toBeCloseTo(59 / 30.44, 1);
  });
  test("readings are visits, seals a service", () => {
    const kinds = besideRefill(done, now).map(({ kind }) => kind);
    expect(kinds).toEqual(["visits", "visits", "services"]);
  });
  test("a carbon cartridge is a service with what the old one looked like", () => {
    const carbon = guideWith("carbon", [
      { step: "look", found: { look: "rust" }, note: "Brown outside." },
      { step: "swap", at: at(6) },
    ]);
    expect(besideRefill(carbon, now)).toEqual([
      expect.objectContaining({
        kind: "services",
        body: { rigId: "r", part: "carbon", at: at(6), note: "The old one: rusty. Brown outside." },
      }),
    ]);
  });
  test("a membrane's first figures become its baseline only where all of them were read", () => {
    const output = { value: 12, scale: "nacl" as const };
    const baseline = { feed: 400, temperature: 12, pressure: 370, productFlow: 0.3, wasteFlow: 0.9 };
    const kinds = (found: RefillStep["found"]) =>
      besideRefill(guideWith("membrane", [{ step: "baseline", found }]), now).map(({ kind }) => kind);
    expect(kinds({ output, baseline })).toEqual(["visits", "services", "membrane-checks"]);
    expect(kinds({ output, baseline: { ...baseline, pressure: undefined } })).toEqual(["visits", "services"]);
  });
  test("a top-up makes the charge larger, adds its bags and leaves it out of what is learnt", () => {
    const open = {
      ...{ id: "c", version: 2, voided: false, vesselId: "v", rigId: "r", grade: "virgin" as const, resinLitres: 10 },
      ...{ packing: "settled" as const, filledAt: at(-900), from: [{ bagId: "b", litres: 10 }] },
    };
    const added = {
      ...open,
      id: "x",
      resinLitres: 1.5,
      from: [
        { bagId: "b", litres: 1 },
        { bagId: "d", litres: 0.5 },
      ],
    };
    const { body } = toppedUp(open, added) as unknown as { body: object };
    expect(body).toMatchObject({ resinLitres: 11.5, leftOut: true });
    expect(body).toMatchObject({
      from: [
        { bagId: "b", litres: 11 },
        { bagId: "d", litres: 0.5 },
      ],
    });
  });
  test("a swap hangs the other vessel where the first one hung", () => {
    const places = [
      { stageId: "r", vesselId: "v" },
      { stageId: "r2", vesselId: "w" },
    ];
    const after = (...asked: [string, string, "end" | "same"]) =>
      arrangementAfter("r", places, ...asked, at(40)).map((step) => (step as unknown as { body: object }).body);
    expect(after("v", "v2", "same")).toEqual([
      {
        ...{ rigId: "r", at: at(40), did: "swapped" },
        places: [
          { stageId: "r", vesselId: "v2" },
          { stageId: "r2", vesselId: "w" },
        ],
      },
    ]);
    // Filled anew the lead goes to the end, or another in its stead; in its own place again nothing is noted.
    expect(after("v", "v", "end")).toMatchObject([
      { did: "rotated", places: [{ vesselId: "w" }, { stageId: "r2", vesselId: "v" }] },
    ]);
    expect(after("v", "v2", "end")).toMatchObject([
      { did: "rotated", places: [{ vesselId: "w" }, { vesselId: "v2" }] },
    ]);
    expect(after("v", "v", "same")).toEqual([]);
  });
  test("the next in line takes the place of a mixed bed that is emptied, of the last and of a cation bed nobody does", () => {
    const places = [{ stageId: "1", vesselId: "a" }, { stageId: "2" }, { stageId: "3", vesselId: "b" }];
    const nextOf = (vesselId: string, beads: "mixed" | "cation" = "mixed") => {
      const charges = ["a", "b"].map((of) => ({ ...charge, id: of, vesselId: of, beads }));
      const vessels = ["a", "b"].map((each) => ({ ...hung, id: each }));
      return nextInLine({ charges, train: { rigs: [], arrangements: [], vessels } }, places, vesselId)?.id;
    };
    expect([nextOf("a"), nextOf("b"), nextOf("c"), nextOf("a", "cation")]).toEqual([
      "b",
      undefined,
      undefined,
      undefined,
    ]);
  });
  test("an exchange by a service is noted, also where everything hangs as before", () => {
    const places = [
      { stageId: "r", vesselId: "v" },
      { stageId: "r2", vesselId: "w" },
    ];
    const noted = (after: "end" | "same") =>
      arrangementAfter("r", places, "v", "v", after, at(40), true).map(
        (step) => (step as unknown as { body: object }).body,
      );
    expect(noted("same")).toEqual([{ rigId: "r", at: at(40), did: "exchanged", places }]);
    expect(noted("end")).toMatchObject([{ did: "exchanged", places: [{ vesselId: "w" }, { vesselId: "v" }] }]);
  });
});

describe("what was typed at a step", () => {
  test("a reading without a value was not read; what is no number stays, to be complained of", () => {
    expect(foundAsTyped({ output: { meterId: "m" } as never })).toBeUndefined();
    expect(foundAsTyped({ output: { meterId: "m", value: NaN } as never, total: NaN })).toEqual({
      output: { meterId: "m", value: NaN },
      total: NaN,
    });
    expect(foundAsTyped({ baseline: {}, parts: 0 })).toEqual({ parts: 0 });
  });
  test("the same work has the same id on every phone", () => {
    expect(workIdOf("refill r v 0")).toBe(workIdOf("refill r v 0"));
    expect(workIdOf("refill r v 0")).not.toBe(workIdOf("refill r v 1"));
    expect(workIdOf("refill r v 0")).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-5/);
  });
});

describe("practice", () => {
  const prices = { prices: DEFAULT_PRICES, currency: "EUR", from: "", assumed: true, list: undefined };
  test("each mistake is offered at a step of some vessel, once", () => {
    const offered = new Set(USUAL_VESSELS.flatMap((about) => mistakesOf(about)));
    expect([...offered].sort()).toEqual([...MISTAKE_NAMES].sort());
    for (const about of USUAL_VESSELS) {
      const names = practiceSteps(about).flatMap((step) => mistakeAt(step) ?? []);
      expect(new Set(names).size).toBe(names.length);
    }
  });
  test("a vessel without a riser has none to forget a plug on", () => {
    const cartridge = USUAL_VESSELS.find(({ vessel: { kind } }) => kind === "cartridge")!;
    expect(mistakesOf(cartridge)).not.toContain("unplugged");
  });
  test("what was changed of an effect counts, the rest stays as assumed", () => {
    const about = USUAL_VESSELS[0]!;
    const own = { "on-its-side": { bypass: 0.1 } };
    expect(allOf(about, ["on-its-side"], own)).toMatchObject({ bypass: expect.closeTo(0.1, 9), mend: 5 });
    expect(told(effectsFor("cartridge")["no-rinse"])).toEqual(["high", "fallsIn"]);
    for (const name of MISTAKE_NAMES) expect(told(effectsFor(about.vessel.kind)[name]).length).toBeGreaterThan(0);
  });
  test("every usual vessel reaches its limit when it is filled rightly", () => {
    for (const about of USUAL_VESSELS) {
      const outcome = unwrap(practise(practiceInput(about, prices), allOf(about, [], {})));
      expect([about.vessel.name, outcome.isReachable, outcome.litres > 100]).toEqual([about.vessel.name, true, true]);
    }
  });
});
