import { runs } from "./runs";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { life, MARKS, unwrap, type RefillStep, type Vessel, type VesselKind } from "../src/index";
import { explainLife } from "../src/index";
import {
  CAUTIONS,
  earlyWaste,
  expectedLitres,
  effectsFor,
  fillWords,
  filledAt,
  firstReadingTroubles,
  guideFor,
  HEAVY_FROM,
  lastWays,
  minutesAtWork,
  missing,
  MISTAKE_NAMES,
  MISTAKES,
  openStep,
  practise,
  refillAmounts,
  RISER_WAYS,
  TIMERS,
  together,
  toolsFor,
  TROUBLES,
  usualWays,
  wettingLoss,
  whereabouts,
  workKey,
  worksOf,
  type CautionName,
  type GuideSetting,
  type Ways,
} from "../src/refill";
import { GUIDED, type Guided } from "../src/refill/refill-step.record";
import { TWO_PERSON_WEIGHT } from "../src/vessel/weight";
import { expectTrue } from "./explained";
import { chargeOf } from "./told";

const KINDS: readonly VesselKind[] = ["screw-head-tank", "inner-seal-bottle", "floated-tank", "cartridge"];
const setting = (kind: VesselKind, more: Partial<GuideSetting> = {}, ways: Partial<Ways> = {}): GuideSetting => ({
  ...{ guided: "refill", kind, use: "glass", isEmpty: false, behindMembrane: false, isHeavy: true },
  ...more,
  ways: { ...usualWays(kind, 0.85), ...ways },
});
const ids = (of: GuideSetting) => guideFor(of).map(({ id }) => id);

describe("every caution stands at the step where the hand could be hurt", () => {
  /** What the trade's cautions say, each with its name here and the steps of a refill at which it must stand. */
  const WHERE: readonly (readonly [caution: CautionName, says: RegExp, steps: readonly string[]])[] = [
    ["pressure", /never undo a head under pressure/i, ["pressure-down", "open", "leak"]],
    ["lift", /hold it from below, lift with two or lay it down/i, ["disconnect", "empty", "connect"]],
    ["rolling-beads", /ball bearings: sweep or wet-vacuum at once/i, ["empty", "fill", "wipe", "tidy"]],
    ["drains", /none into drains, soil or water/i, ["ready", "riser-out", "empty", "rinse", "spent", "fill"]],
    ["gloves-and-eyes", /gloves and eye protection/i, ["ready", "open", "fill", "seal"]],
    ["wash-hands", /wash your hands/i, ["tidy"]],
    ["bystanders", /children and animals/i, ["ready", "tidy"]],
    ["spent-resin", /ask the local authority or the supplier/i, ["spent"]],
    ["not-drinking-water", /not drinking water/i, ["last-reading", "wet", "purge", "first-reading"]],
    ["backflow", /backflow protection that your local code/i, ["connect"]],
    ["dried-resin", /swells when it is wetted, and can burst a full vessel/i, ["fill", "wet"]],
    ["frost", /do not let wet resin freeze/i, ["tidy"]],
    ["heat", /40 °C in a parked van/i, ["tidy"]],
    ["closed-in-the-sun", /capped at both ends in the sun/i, ["pressure-down", "connect"]],
    ["stagnant-water", /standing warm, flush/i, ["purge"]],
    ["strap", /strap it in the vehicle/i, ["connect"]],
    ["float-valve", /float shut-off that was tested/i, ["connect"]],
  ];
  test.each(KINDS.flatMap((kind) => WHERE.map(([caution, says, steps]) => [kind, caution, says, steps] as const)))(
    "%s: %s",
    (kind, caution, says, steps) => {
      expect(CAUTIONS[caution].say).toMatch(says);
      const guide = guideFor(setting(kind));
      const hasRiser = kind !== "cartridge";
      for (const id of steps.filter((step) => hasRiser || step !== "riser-out"))
        expect([id, guide.find((step) => step.id === id)?.cautions]).toEqual([id, expect.arrayContaining([caution])]);
    },
  );
  test("no copper where animals live in the water, and only there", () => {
    const copper = (use: "aquarium" | "glass") =>
      guideFor(setting("cartridge", { use })).filter(({ cautions }) => cautions.includes("copper")).length;
    expect(copper("aquarium")).toBeGreaterThan(0);
    expect(copper("glass")).toBe(0);
  });
  test("a housing is opened dry of electricity, and its cartridge handled with gloves", () => {
    for (const guided of ["sediment", "carbon", "membrane"] as const) {
      const guide = guideFor(setting("cartridge", { guided }));
      expect(guide.find(({ id }) => id === "pressure-down")?.cautions).toEqual(["pressure", "wet-floor"]);
      expect(guide.find(({ id }) => id === "look")?.cautions).toContain("slimy-cartridge");
      expect(guide.find(({ id }) => id === "open")?.cautions).toContain("pressure");
    }
  });
  test("the last word is the data sheet's, the local authority's, the local rules' and the plumber's", () => {
    expect(CAUTIONS["gloves-and-eyes"].more).toContain("safety data sheet has the last word");
    expect(CAUTIONS["wash-hands"].more).toMatch(/doctor, not this program/);
    expect(CAUTIONS.lift.more).toContain("local rules");
    expect(CAUTIONS.backflow.more).toContain("licensed plumber");
    expect(CAUTIONS["spent-resin"].more).toContain("this program does not know");
  });
  test("no caution is left without a step", () => {
    const used = new Set(
      (Object.keys(GUIDED.of) as Guided[]).flatMap((guided) =>
        KINDS.flatMap((kind) =>
          guideFor(setting(kind, { guided, use: "aquarium" }, { drain: "hours" })).flatMap(({ cautions }) => cautions),
        ),
      ),
    );
    expect([...used].sort()).toEqual(Object.keys(CAUTIONS).sort());
  });
  test("a vessel that one hand carries is not called heavy", () => {
    const light = guideFor(setting("cartridge", { isHeavy: false }));
    expect(light.some(({ cautions, scene }) => cautions.includes("lift") || scene.heavy)).toBe(false);
  });
});

describe("the guide of each kind of vessel", () => {
  const MIDDLE = ["fill", "settle", "wet"];
  test("a tank whose riser stands in first is plugged before a bead goes in, and wiped after the last", () => {
    const guide = ids(setting("screw-head-tank"));
    expect(guide.indexOf("riser-in")).toBe(guide.indexOf("fill") - 1);
    expect(guide.slice(guide.indexOf("fill"), guide.indexOf("close") + 1)).toEqual([
      ...MIDDLE,
      "wipe",
      "seal",
      "close",
    ]);
  });
  test("a floated tank gets its riser last, through the slurry", () => {
    const guide = ids(setting("floated-tank"));
    expect(guide).not.toContain("riser-in");
    expect(guide.indexOf("float")).toBe(guide.indexOf("wet") + 1);
    expect(fillWords(setting("floated-tank", {}, { fillTo: 0.75 }))).toBe("to 75 %");
  });
  test("a riser that comes with the head goes back with it", () => {
    const guide = guideFor(setting("screw-head-tank", {}, { riser: "with-head" }));
    const close = guide.find(({ id }) => id === "close")!;
    expect(close.title).toContain("Head and riser in together");
    expect(close.scene.riser).toBe("sliding");
    expect(guide.find(({ id }) => id === "fill")!.how.join(" ")).toContain("Leave room");
  });
  test("a cartridge has no riser, is filled in layers, and looked at from below", () => {
    const guide = guideFor(setting("cartridge"));
    expect(guide.some(({ scene }) => scene.riser !== "none")).toBe(false);
    expect(guide.find(({ id }) => id === "fill")!.title).toContain("layers");
    expect(guide.find(({ id }) => id === "close")!.troubles).toContain("gap-below");
  });
  test("a bottle's loose parts go back in reverse", () => {
    expect(
      guideFor(setting("inner-seal-bottle"))
        .find(({ id }) => id === "seal")!
        .how.join(" "),
    ).toContain("reverse");
  });
  test("canisters on one stand are loosened while it stands, their spacers kept; of lead and lag the lag moves up", () => {
    const stand = guideFor(setting("cartridge", {}, { mount: "stand" }));
    expect(stand.find(({ id }) => id === "disconnect")!.how.join(" ")).toMatch(/spacers/);
    expect(stand.find(({ id }) => id === "seal")!.how.join(" ")).toMatch(/spacers go back/);
    const lead = guideFor(setting("cartridge", {}, { mount: "lead-lag" }));
    expect(lead.find(({ id }) => id === "connect")!.title).toBe("The lag to the front, the fresh one behind it");
  });
  test("what was left to drain has a time, what is emptied wet has none", () => {
    expect(ids(setting("screw-head-tank", {}, { drain: "hours" }))).toContain("drain");
    expect(ids(setting("screw-head-tank"))).not.toContain("drain");
  });
  test("shaken out it is turned over, flushed out it lies", () => {
    const empty = (ways: Partial<Ways>) =>
      guideFor(setting("screw-head-tank", {}, ways)).find(({ id }) => id === "empty")!.scene.stance;
    expect(empty({ empty: "shake" })).toBe("turned-over");
    expect(empty({ empty: "hose", position: "laid" })).toBe("laid");
  });
  test("an empty vessel is not emptied and has no last reading", () => {
    const guide = ids(setting("screw-head-tank", { isEmpty: true }));
    for (const id of ["last-reading", "riser-out", "empty", "spent"]) expect(guide).not.toContain(id);
    expect(guide).toContain("rinse");
  });
  test("a top-up empties nothing and says why a conditioner is no substitute", () => {
    const guide = guideFor(setting("screw-head-tank", { guided: "top-up" }));
    expect(guide.map(({ id }) => id)).not.toContain("empty");
    expect(guide.find(({ id }) => id === "sunken")!.how.join(" ")).toContain("no substitute");
    expect(guide.find(({ id }) => id === "fill")!.scene.beads).toEqual({ are: "fresh", level: 0.9, spentTo: 0.8 });
  });
  test("new carbon is rinsed ten minutes, a membrane flushed for its first hour and read", () => {
    const timer = (guided: "carbon" | "membrane") =>
      guideFor(setting("cartridge", { guided })).find(({ id }) => id === "flush")!.timer;
    expect([timer("carbon"), timer("membrane")]).toEqual(["carbon-rinse", "membrane-flush"]);
    expect(ids(setting("cartridge", { guided: "membrane" }))).toContain("baseline");
  });
  test("whatever is chosen: no step twice, one action each, its words and its way on there", () => {
    const anyWays = fc.record<Ways>({
      riser: fc.constantFrom("first", "floated", "with-head", "none"),
      fill: fc.constantFrom("scoop", "pour"),
      drain: fc.constantFrom("hours", "wet"),
      empty: fc.constantFrom("shake", "hose"),
      position: fc.constantFrom("standing", "laid"),
      mount: fc.constantFrom("alone", "stand", "lead-lag"),
      scoop: fc.constant(0.8),
      fillTo: fc.constant(0.8),
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS),
        fc.constantFrom(...(Object.keys(GUIDED.of) as Guided[])),
        anyWays,
        fc.boolean(),
        (kind, guided, ways, isEmpty) => {
          fc.pre(RISER_WAYS[kind].includes(ways.riser));
          const guide = guideFor(setting(kind, { guided, isEmpty }, ways));
          expect(new Set(guide.map(({ id }) => id)).size).toBe(guide.length);
          for (const step of guide) {
            expect(step.title.length * step.short.length * step.done.length).toBeGreaterThan(0);
            expect(step.how.length).toBeGreaterThan(0);
            for (const trouble of step.troubles) expect(TROUBLES[trouble].help.length).toBeGreaterThan(0);
            // Nobody fills beads into an open tube.
            if (step.scene.beadsGo === "in" && step.scene.riser === "in") expect(step.scene.plug).toBe(true);
          }
          expect(toolsFor(setting(kind, { guided }, ways)).length).toBeGreaterThan(2);
        },
      ),
    );
  });
});

describe("planning assumptions of the guide", () => {
  test("times, in minutes", () => {
    const minutes = Object.entries(TIMERS).map(([name, { minutes: each }]) => [name, each]);
    expect(Object.fromEntries(minutes)).toEqual({
      ...{ drain: 120, settle: 2, purge: 1, "rinse-up": 2, "carbon-rinse": 10, "membrane-flush": 60 },
    });
  });
  test("a scoop of 0.8 L; heavy from 8 kg", () => {
    expect(usualWays("cartridge", 1).scoop).toBe(0.8);
    expect(HEAVY_FROM).toBe(8);
  });
  test("a housing has its own tools, a vessel those of its school", () => {
    expect(toolsFor(setting("cartridge", { guided: "sediment" }))).toContain("Housing wrench");
    expect(toolsFor(setting("screw-head-tank"))).toContain("Plug for the riser");
    expect(toolsFor(setting("floated-tank"))).not.toContain("Plug for the riser");
  });
});

describe("amounts of a refill", () => {
  const bottle = { grossVolume: 14, diameter: 180, emptyWeight: 5.2 };
  const ways = { fillTo: 0.85, scoop: 0.8 };
  const amounts = refillAmounts({ vessel: bottle, ways, inIt: 11.5 });
  test("litres, scoops, water and weights as worked by hand", () => {
    expect(amounts.litres!.value).toBeCloseTo(11.9, 9);
    expect(amounts.scoops!.value).toBeCloseTo(14.875, 9);
    expect(amounts["wetting-water"]!.value).toBeCloseTo(0.38 * 11.9, 9);
    expect(amounts["floating-water"]!.value).toBeCloseTo(2.1, 9);
    expect(amounts["spent-weight"]!.value).toBeCloseTo(8.05, 9);
    expect(amounts["drained-weight"]!.value).toBeCloseTo(13.25, 9);
    // 5.2 + 1.08 × 11.5 + 2.5 of water above.
    expect(amounts["wet-weight"]!.value).toBeCloseTo(20.12, 9);
    expect(amounts["depth-of-fill"]!.value).toBeCloseTo(0.15 * 550.16, 1);
  });
  test("each explains itself", () => {
    for (const { explanation, value } of Object.values(amounts)) {
      expect(explanation.value).toBe(value);
      expectTrue(explanation);
    }
    for (const { explanation } of Object.values(refillAmounts({ vessel: bottle, ways, inIt: 10, toFill: 1.9 })))
      expectTrue(explanation);
  });
  test("over 25 kg two lift", () => {
    const tank = refillAmounts({ vessel: { grossVolume: 28, diameter: 254, emptyWeight: 7.5 }, ways });
    expect(tank["wet-weight"]!.value).toBeGreaterThan(TWO_PERSON_WEIGHT);
    expect([tank["wet-weight"]!.twoPeople, amounts["wet-weight"]!.twoPeople]).toEqual([true, false]);
  });
  test("tap water in the voids spends two parts in a thousand at 320 µS/cm", () => {
    expect(wettingLoss(320, 0.56)).toBeCloseTo((0.38 * 3.2) / 560, 12);
  });
  test("a new charge should give what its resin holds, by the load of each litre", () => {
    const given = expectedLitres({ resin: 10, capacity: 0.5, throughput: 0.9, feed: 300, worth: 0.8 });
    expect(given.value).toBeCloseTo(1200, 9);
    expectTrue(given);
  });
  test("an early change throws away what it could still give", () => {
    const waste = earlyWaste({ left: 500, treated: 1500, resin: 12, price: 8, currency: "EUR" });
    expect(waste.value).toBe(24);
    expectTrue(waste);
  });
});

const at = (minutes: number) => new Date(Date.parse("2027-03-07T08:00:00.000Z") + 60_000 * minutes).toISOString();
let made = 0;
const done = (step: string, minutes: number, more: Partial<RefillStep> = {}): RefillStep => ({
  ...{
    id: `step-${String((made += 1)).padStart(4, "0")}`,
    workId: "w",
    guided: "refill",
    rigId: "rig",
    vesselId: "tank",
  },
  ...{ step, outcome: "done", at: at(minutes) },
  ...more,
});

describe("work that is left and gone on with", () => {
  test("two phones' steps are one truth, in whatever order they come", () => {
    const steps = [
      done("ready", 0, { found: { tools: 9 } }),
      done("parts", 3, { found: { parts: 4 } }),
      done("ready", 4, { found: { tools: 10 } }),
      done("wipe", 8, { outcome: "failed", note: "Beads on the floor" }),
      done("wipe", 9),
      done("fill", 5, { found: { resinLitres: 11 } }),
    ];
    fc.assert(
      fc.property(fc.shuffledSubarray(steps, { minLength: steps.length }), (mixed) => {
        const [work] = worksOf(mixed);
        expect(work!.found).toEqual({ tools: 10, parts: 4, resinLitres: 11 });
        expect(work!.steps.get("wipe")!.outcome).toBe("done");
        expect([work!.startedAt, work!.lastAt]).toEqual([at(0), at(9)]);
      }),
    );
  });
  test("it goes on at the first step that is neither done nor left out", () => {
    const guide = guideFor(setting("screw-head-tank"));
    const work = worksOf([done("ready", 0), done("last-reading", 1, { outcome: "skipped", note: "No meter." })])[0]!;
    expect(guide[openStep(guide, work)]!.id).toBe("pressure-down");
    expect(openStep(guide, undefined)).toBe(0);
    const all = worksOf(guide.map(({ id }, i) => done(id, i)))[0]!;
    expect(openStep(guide, all)).toBe(guide.length);
    const failed = worksOf([...guide.map(({ id }, i) => done(id, i)), done("leak", 90, { outcome: "failed" })])[0]!;
    expect(guide[openStep(guide, failed)]!.id).toBe("leak");
  });
  test("a running time is kept as the instant at which it ends", () => {
    const work = worksOf([done("purge", 0, { outcome: "waiting", until: at(1) })])[0]!;
    expect(work.steps.get("purge")).toMatchObject({ outcome: "waiting", until: at(1) });
  });
  test("finished wins over given up, and the next one of the same kind is another piece of work", () => {
    const target = { rigId: "rig", vesselId: "tank" };
    const first = workKey("refill", target, []);
    const works = worksOf([done("end", 9, { outcome: "given-up" }), done("end", 8, { outcome: "finished" })]);
    expect(works[0]!.ended).toBe("finished");
    const [reopened] = worksOf([done("ready", 0), done("end", 8, { outcome: "reopened" })]);
    expect([reopened!.ended, reopened!.steps.has("end")]).toEqual([undefined, false]);
    expect(workKey("refill", target, worksOf([done("ready", 0)]))).toBe(first);
    expect(workKey("refill", target, works)).not.toBe(first);
    expect(workKey("top-up", target, works)).not.toBe(workKey("refill", target, []));
  });
  test("parts that are missing are counted against the start", () => {
    const work = worksOf([done("parts", 3, { found: { parts: 4 } }), done("seal", 9, { found: { parts: 3 } })])[0]!;
    expect(missing(work, "parts", 3)).toBe(1);
    expect(missing(work, "parts", 5)).toBe(-1);
    expect(missing(work, "tools", 3)).toBeUndefined();
  });
  test("minutes at work leave the pauses out", () => {
    expect(minutesAtWork([done("a", 0), done("b", 10), done("c", 360)], Date.parse(at(365)))).toBe(15);
    // A pause of half an hour still counts, a longer one does not.
    expect(minutesAtWork([done("a", 0)], Date.parse(at(30)))).toBe(30);
    expect(minutesAtWork([done("a", 0)], Date.parse(at(31)))).toBe(0);
  });
  test("the new charge begins when beads went in, before its first reading", () => {
    const now = Date.parse(at(60));
    const began = (...steps: RefillStep[]) => filledAt(worksOf(steps)[0]!, now);
    expect(began(done("wet", 20), done("fill", 15))).toBe(Date.parse(at(15)));
    expect(began(done("fill", 15, { outcome: "skipped", note: "x" }), done("wet", 20))).toBe(Date.parse(at(20)));
    expect(began(done("first-reading", 5), done("fill", 15))).toBe(Date.parse(at(5)) - 1000);
    expect(began(done("ready", 0))).toBe(now);
  });
  test("the school that was chosen last for such a vessel is followed", () => {
    const ways = usualWays("floated-tank", 0.75);
    const works = worksOf([
      done("fill-way", 1, { ways }),
      { ...done("ready", 9), workId: "other", vesselId: "bottle" },
    ]);
    expect(lastWays(works, (id) => id === "tank")).toEqual(ways);
    expect(lastWays(works, (id) => id === "bottle")).toBeUndefined();
  });
});

describe("a first reading", () => {
  test("below the watch point it is as it should be; near the feed and a share of it have their causes", () => {
    expect(firstReadingTroubles(5, 12, 320)).toEqual([]);
    expect(firstReadingTroubles(12, 12, 320)).toEqual([]);
    expect(firstReadingTroubles(260, 12, 320)).toEqual(["reads-feed"]);
    expect(firstReadingTroubles(193, 12, 320)).toEqual(["reads-feed"]);
    expect(firstReadingTroubles(191, 12, 320)).toEqual(["reads-high-falls", "reads-share"]);
    expect(firstReadingTroubles(40, 12, 320)).toEqual(["reads-high-falls", "reads-share"]);
    expect(firstReadingTroubles(260, 12, undefined)).toEqual(["reads-high-falls", "reads-share"]);
  });
});

describe("which vessel is where", () => {
  const vessel = (id: string): Vessel => ({
    ...{ id, name: id, kind: "screw-head-tank", grossVolume: 28, diameter: 254, fillFraction: 0.86 },
    marks: MARKS["glass-10"],
  });
  const rig = {
    ...{ id: "rig", name: "Van", use: "glass" as const, tapId: "tap", flow: 3, jobName: "house", litresPerJob: 60 },
    stages: [{ id: "stage", kind: "resin" as const }],
  };
  const hung = { id: "first", rigId: "rig", at: at(0), places: [{ stageId: "stage", vesselId: "a" }] };
  const facts = { arrangements: [hung], now: Date.parse(at(0)) };
  test("the pool first; what hangs in a retired rig hangs nowhere", () => {
    const charges = [
      { ...chargeOf({}), id: "1", vesselId: "b", ended: { at: at(0), why: "limit" as const } },
      { ...chargeOf({}), id: "2", vesselId: "a" },
    ];
    const [first, second] = whereabouts({ ...facts, vessels: [vessel("a"), vessel("b")], rigs: [rig], charges });
    expect(first).toMatchObject({ vessel: { id: "b" }, emptySince: at(0) });
    expect(first!.rig).toBeUndefined();
    expect(second).toMatchObject({ vessel: { id: "a" }, rig: { id: "rig" }, charge: { id: "2" } });
    const [sold] = whereabouts({
      ...facts,
      vessels: [vessel("a")],
      rigs: [{ ...rig, retiredOn: "2027-01-01" }],
      charges: [],
    });
    expect(sold!.rig).toBeUndefined();
  });
});

describe("what a mistake costs", () => {
  const right = {
    water: { reading: { value: 320, scale: "ec" as const } },
    capacity: { grade: "virgin" as const },
    bed: { volume: 11.9, diameter: 180, flow: 3.2 },
    limit: { value: 10, scale: "nacl" as const },
  };
  const input = { life: right, litresPerJob: 40, resinPrice: 9, wage: 30, spoiltJob: 25, currency: "EUR" };
  const effects = effectsFor("inner-seal-bottle");
  const whole = unwrap(life(right)).litres;
  const nothing = together([]);

  test("nothing done wrong costs nothing", () => {
    const outcome = unwrap(practise(input, nothing));
    expect(outcome.litres).toBeCloseTo(whole, 9);
    expect(outcome.money.total).toBe(0);
    expect(outcome.spoiltJobs).toBe(0);
  });
  test.each(MISTAKE_NAMES.map((name) => [name] as const))("%s: as the life itself says, with its working", (name) => {
    const effect = effects[name];
    const outcome = unwrap(practise(input, effect));
    const again = unwrap(life(outcome.life));
    expect(outcome.litres).toBeCloseTo(outcome.isReachable ? again.litres : 0, 9);
    expect(outcome.money.total).toBeCloseTo(outcome.money.resin + outcome.money.time + outcome.money.jobs, 9);
    expect(outcome.money.total).toBeGreaterThan(0);
    expectTrue(outcome.explanation);
    expectTrue(unwrap(explainLife(outcome.life)));
    expect(MISTAKES[name].remember.length).toBeGreaterThan(10);
  });
  test("a twentieth less for beads that only lie where they fell; a fifth in a cartridge", () => {
    expect(unwrap(practise(input, effects.loose)).litres / whole).toBeCloseTo(0.95, 9);
    expect(unwrap(practise(input, effectsFor("cartridge").loose)).litres / whole).toBeCloseTo(0.8, 9);
    // 11.9 L × 9 of which a twentieth never gives its water.
    expect(unwrap(practise(input, effects.loose)).money.total).toBeCloseTo(0.05 * 11.9 * 9, 9);
  });
  test("a forgotten seal reads its share of the feed from the first litre, and is opened again", () => {
    const outcome = unwrap(practise(input, effects["seal-forgotten"]));
    // 6 % of 320 µS/cm at half a ppm each: just below this limit, above a lower one.
    expect(outcome.isReachable).toBe(true);
    expect(outcome.firstReading).toBeCloseTo(9.6, 1);
    expect(outcome.moreSalts).toBeCloseTo(9.6, 1);
    const worse = unwrap(
      practise({ ...input, life: { ...right, limit: { value: 9, scale: "nacl" } } }, effects["seal-forgotten"]),
    );
    expect(worse.money).toMatchObject({ time: 15, jobs: 25 });
    expect(worse.aboveLimit).toBe(40);
  });
  test("not rinsed: the first litres above the limit are those of the falling start", () => {
    const outcome = unwrap(practise(input, effects["no-rinse"]));
    const minutes = 0.6 * Math.log((0.3 * 320) / 20);
    expect(outcome.aboveLimit).toBeCloseTo(3.2 * minutes, 1);
    expect(outcome.litres).toBeCloseTo(whole, 9);
    expect(outcome.money.jobs).toBeCloseTo((25 * outcome.aboveLimit) / 40, 9);
    // Salts of the falling part: from 96 to 20 µS/cm, its mean over the time, on the NaCl scale, times the litres.
    const mean = ((0.3 * 320 - 20) * 0.6) / minutes;
    expect(outcome.residue).toBeCloseTo(0.5 * mean * 3.2 * minutes, 0);
  });
  test("tap water in the voids spends its own load", () => {
    const outcome = unwrap(practise(input, effects["tap-water"]));
    expect(1 - outcome.litres / whole).toBeCloseTo(wettingLoss(320, 0.56), 9);
  });
  test("beads lost are lost with their water, and named", () => {
    const outcome = unwrap(practise(input, effects.unplugged));
    expect(outcome.resinLost).toBeCloseTo(0.02 * 11.9, 9);
    expect(outcome.litres).toBeLessThan(0.981 * whole);
  });
  test("several at once are never better than one, whatever is assumed of them", () => {
    const anyEffect = fc.record({
      lost: fc.double({ min: 0, max: 0.3, noNaN: true }),
      packing: fc.double({ min: 0.5, max: 1, noNaN: true }),
      bypass: fc.double({ min: 0, max: 0.2, noNaN: true }),
      tapWater: fc.double({ min: 0, max: 1, noNaN: true }),
      high: fc.double({ min: 0, max: 1, noNaN: true }),
      fallsIn: fc.double({ min: 0, max: 3, noNaN: true }),
      mend: fc.double({ min: 0, max: 60, noNaN: true }),
    });
    fc.assert(
      fc.property(anyEffect, anyEffect, (one, other) => {
        const alone = unwrap(practise(input, one));
        const both = unwrap(practise(input, together([one, other])));
        const asLeaky = unwrap(practise(input, together([one, { ...other, bypass: 0 }])));
        expect(asLeaky.litres).toBeLessThanOrEqual(alone.litres + 1e-6);
        for (const figure of [both.money.total, both.aboveLimit, both.residue, both.firstReading])
          expect(figure).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: runs(60) },
    );
  });
  test("the page of mistakes says what the core says", () => {
    const page = readFileSync(join(__dirname, "../../docs/mistakes.md"), "utf8");
    const rows = page.split("\n").filter((line) => /^\| [A-Z]/.test(line));
    expect(rows).toHaveLength(MISTAKE_NAMES.length);
    for (const name of MISTAKE_NAMES) {
      const { packing, lost, bypass, tapWater, high, mend } = effects[name];
      const { firstReading, litres, money } = unwrap(practise(input, effects[name]));
      const cells = rows
        .find((row) => row.includes(`| ${MISTAKES[name].name} |`))!
        .split("|")
        .slice(2, -1);
      const said = [packing, 100 * lost, 100 * bypass, tapWater, 100 * high, mend, firstReading, litres, money.total];
      for (const [i, value] of said.entries()) {
        const digits = cells[i]!.trim().split(".")[1]?.length ?? 0;
        expect([name, i, Number(cells[i])]).toEqual([name, i, Number(value.toFixed(digits))]);
      }
    }
    expect(page).toContain(`gives ${Math.round(whole).toLocaleString("en-US")} L`);
  });
  test("a fault of the question is passed on in words", () => {
    const bad = practise({ ...input, life: { ...right, bed: { ...right.bed, flow: 0 } } }, nothing);
    expect(bad.ok).toBe(false);
  });
});
