import {
  arrangementIdOf,
  arrangementOf,
  KINDS,
  lastBed,
  leadOf,
  placesOf,
  DEFAULT_PRICES,
  explainLeft,
  headlineOf,
  reasonWords,
  rigLedger,
  rigStanding,
  spentLead,
  stagesAtTap,
  standingDates,
  stageIdAt,
  Trains,
  trainWorth,
  unwrap,
  upcast,
  verdictTitle,
  workStanding,
  workTrain,
  type Wording,
} from "../src/index";
import { chargeAt, loadAtMark, markOf, outputOf } from "../src/belief/charge-belief";
import { drawnLeft, outputsToCome, type BedAhead } from "../src/run/in-series";
import { expectTrue } from "./explained";
import { factsOf, hungIn, START, clean } from "./told";
import {
  arranged,
  BEFORE,
  evening,
  filled,
  trainFacts,
  trainOf,
  trainRig,
  type Read,
  type TrainTold,
} from "./train-told";

const both = [filled("a", BEFORE), filled("b", BEFORE)];
const hung = arranged("first", BEFORE, ["a", "b"]);
const days = (count: number, read: Read | ((day: number) => Read)): Read[] =>
  Array.from({ length: count }, (_, i) => (typeof read === "function" ? read(i) : read));
const two = (of: readonly Read[], more: Partial<TrainTold> = {}): TrainTold => ({
  ...{ days: of, arrangements: [hung], charges: both },
  ...more,
});
/** A front: clean for so many days, then doubling. */
const rising = (from: number) => (day: number) => Math.min(155, day < from ? 0 : 3 * 2 ** (day - from));
const wording: Wording = {
  litres: (litres) => `${Math.round(litres)} L`,
  litresRange: (low, high) => `${Math.round(low)} to ${Math.round(high)} L`,
  scaleUnit: (scale) => `ppm ${scale}`,
  day: (at) => new Date(at).toISOString().slice(0, 10),
};
const said = (told: TrainTold) => {
  const train = trainOf(told);
  const last = train.beds[train.beds.length - 1]!;
  const facts = { rig: trainFacts(told).rig, vessel: last.vessel, lead: spentLead(train) };
  return train.verdict.reasons.map((reason) => reasonWords(reason, last.worked.standing, facts, wording));
};

describe("who stood where when", () => {
  const rotated = arranged("second", evening(4), ["b", "c"]);
  const other = { ...arranged("other", evening(6), ["a"]), rigId: "trailer" };
  const trains = new Trains([other, rotated, hung]);
  const at = (day: number) => trains.at("rig", evening(day)).map(({ vesselId }) => vesselId);
  test("is the whole train from its moment on, the first also before it", () => {
    expect([at(0), at(3), at(4), at(5)]).toEqual([
      ["a", "b"],
      ["a", "b"],
      ["b", "c"],
      ["b", "c"],
    ]);
    expect(trains.at("rig", BEFORE - 1e9).map(({ vesselId }) => vesselId)).toEqual(["a", "b"]);
    expect(trains.at("nowhere", START)).toEqual([]);
  });
  test("a vessel named later elsewhere has left, and its place stays empty", () => {
    const moved = new Trains([hung, { ...arranged("moved", evening(2), ["b"]), rigId: "trailer" }]);
    expect(moved.at("rig", evening(1)).map(({ vesselId }) => vesselId)).toEqual(["a", "b"]);
    expect(moved.placesAt("rig", evening(3))).toEqual([{ stageId: "stage-0", vesselId: "a" }, { stageId: "stage-1" }]);
    expect([moved.rigOf("b", evening(1)), moved.rigOf("b", evening(3)), moved.rigOf("z", evening(3))]).toEqual([
      "rig",
      "trailer",
      undefined,
    ]);
    expect([...moved.linkedTo("rig")]).toEqual(["rig", "trailer"]);
  });
  test("one that came from elsewhere did not stand here before", () => {
    const came = new Trains([
      { ...arranged("there", BEFORE, ["a"]), rigId: "trailer" },
      arranged("here", evening(3), ["a"]),
    ]);
    expect(came.at("rig", evening(1))).toEqual([]);
    expect(came.rigOf("a", evening(1))).toBe("trailer");
    expect(came.rigOf("a", evening(4))).toBe("rig");
  });
  test("taken out it is a spare", () => {
    const out = new Trains([hung, arranged("out", evening(2), ["b", undefined])]);
    expect(out.rigOf("a", evening(3))).toBeUndefined();
    const rig = trainRig([{ kind: "carbon" }, { kind: "resin" }, { kind: "resin" }]);
    expect(placesOf(rig, out, evening(3))).toEqual([{ stageId: "stage-1" }, { stageId: "stage-2" }]);
  });
});

describe("a rig of the first shape", () => {
  const id = "01890000-0000-7000-8000-000000000001";
  const old = { stages: [{ kind: "carbon" as const }, { kind: "resin" as const, vesselId: id }] };
  test("gets stage ids by their places, and an arrangement of its vessels under an id that all devices make", () => {
    const now = upcast(KINDS.rigs, old, 1);
    expect(now.stages).toEqual([
      { id: stageIdAt(0), kind: "carbon" },
      { id: stageIdAt(1), kind: "resin" },
    ]);
    expect(arrangementOf(id, old.stages, "2027-03-01T08:00:00.000Z")).toEqual({
      id: "01890000-0000-8001-8000-000000000001",
      rigId: id,
      at: "2027-03-01T08:00:00.000Z",
      places: [{ stageId: stageIdAt(1), vesselId: id }],
    });
    expect(new Set([0, 1, 2, 3].map((version) => arrangementIdOf(id, version))).size).toBe(4);
    expect(arrangementOf(id, now.stages, "2027-03-01T08:00:00.000Z")).toBeUndefined();
  });
});

describe("one vessel in a train", () => {
  test("stands as it does alone", () => {
    const facts = factsOf({ outputs: [...clean(8), 3] });
    const alone = unwrap(workStanding(facts)).standing;
    const { rig, vessel } = facts;
    const train = unwrap(
      workTrain({ ...facts, train: { rigs: [rig], vessels: [vessel], arrangements: [hungIn(facts)] } }),
    );
    expect(train.beds).toHaveLength(1);
    expect(train.beds[0]!.worked.standing).toEqual(alone);
    expect(train.verdict).toEqual(alone.verdict);
  });
});

describe("two in a row", () => {
  test("each takes its own: the lag what leaves the lead, as it was read there", () => {
    const lead = [0, 0, 4, 8, 20];
    const { books } = trainOf(two(lead.map((ppm) => ({ "stage-0": ppm, "stage-1": 0 }))));
    const [a, b] = books.charges;
    const meq = (ledger: typeof a) =>
      ledger!.lines.reduce((sum, { litres, feedEc25 }) => sum + (litres * feedEc25) / 100, 0);
    // The first total counts nothing; then 100 L each, at 2 µS/cm a ppm.
    expect(meq(a)).toBeCloseTo(4 * 320, 9);
    // A reading stands behind its visit's water: that left between the one before and this one.
    expect(meq(b)).toBeCloseTo((100 * 2 * (0 + 2 + 6 + 14)) / 100, 9);
    expect(b!.lines.map(({ fedBy, place }) => [fedBy, place])[3]).toEqual(["read", 1]);
    expect(a!.outputs.map(({ value }) => value)).toEqual(lead);
    expect(b!.outputs).toHaveLength(5);
  });
  test("between two readings behind the lead what leaves it lies on a straight line; beyond them it is believed", () => {
    const reads = days(20, (day): Read => (day === 3 ? { "stage-0": 2 } : day === 7 ? { "stage-0": 10 } : {}));
    const [, b] = trainOf(two(reads)).books.charges;
    const left = b!.lines.map(({ feedEc25 }) => feedEc25 / 2);
    expect(left.slice(4, 8)).toEqual([3, 5, 7, 9].map((ppm) => expect.closeTo(ppm, 9)));
    expect(b!.lines[9]!.fedBy).toBe("believed");
    expect(left[19]!).toBeGreaterThan(left[9]!);
    expect(left[1]!).toBeLessThan(2);
  });
  test("a log that names no stage is of the last", () => {
    const { books } = trainOf(two(days(3, { last: 1 })));
    expect(books.charges.map(({ outputs }) => outputs.length)).toEqual([0, 3]);
  });
  test("hold to the last one's limit longer than both alone would, and not longer than both together", () => {
    const train = trainOf(two(days(10, { "stage-0": 0, "stage-1": 0 })));
    const [lead, lag] = train.beds.map(({ worked }) => worked.standing);
    const facts = factsOf({ outputs: clean(10) });
    const charges = facts.charges.map(({ startTotal: _unknown, ...charge }) => charge);
    const alone = unwrap(workStanding({ ...facts, charges })).standing;
    expect(lead!.left!.typical).toBeCloseTo(alone.left!.typical, 6);
    const whole = lead!.left!.typical + 11.5 * 0.56 * 1000 * (100 / 320);
    expect(lag!.left!.typical).toBeGreaterThan(0.9 * whole);
    expect(lag!.left!.typical).toBeLessThan(1.15 * whole);
    const [soon, late] = train.beds.map(({ worked }) => unwrap(standingDates(worked)));
    expect(late!.early > soon!.likely).toBe(true);
  });
  test("each one's litres explain themselves, those of the last with what the lead will still hold back", () => {
    const train = trainOf(two(days(10, { "stage-0": 0, "stage-1": 0 })));
    for (const { worked } of train.beds) {
      const why = explainLeft(worked.standing)!;
      expectTrue(why);
      expect(why.median!.middleOfEach / why.value).toBeGreaterThan(0.85);
      expect(why.median!.middleOfEach / why.value).toBeLessThan(1.15);
    }
    const [lead, lag] = train.beds.map(({ worked }) =>
      explainLeft(worked.standing)!.inputs.map(({ symbol }) => symbol),
    );
    expect([lead!.includes("h"), lag!.includes("h")]).toEqual([false, true]);
  });
  test("what each act would give is said in litres, days and money", () => {
    const lead = rising(14);
    const train = trainOf(two(days(19, (day) => ({ "stage-0": lead(day), "stage-1": 0 }))));
    const worth = trainWorth(train, { use: "glass" }, DEFAULT_PRICES, 20);
    const [rotate, runLead, runOut, all] = worth;
    expect(worth.map(({ act, fillings }) => [act, fillings])).toEqual([
      ["rotate", 1],
      ["run-lead", 1],
      ["run-out", 0],
      ["replace-all", 2],
    ]);
    expect(runOut!.litres).toEqual(train.beds[1]!.worked.standing.left);
    expect(rotate!.litres.typical).toBeGreaterThan(1.5 * runOut!.litres.typical);
    expect(all!.litres.typical).toBeGreaterThan(rotate!.litres.typical);
    // Run to near exhaustion the lead gives what it would have been thrown away with, and nearly no more than that.
    const { litres: until, days: untilDays, risk } = runLead!.runsUntil!;
    expect(runLead!.litres.typical - rotate!.litres.typical).toBeGreaterThan(0.2 * until);
    expect(runLead!.litres.typical - rotate!.litres.typical).toBeLessThan(until);
    const early = trainOf(two(days(12, () => ({ "stage-0": 0, "stage-1": 0 }))));
    const [now, later] = trainWorth(early, { use: "glass" }, DEFAULT_PRICES, 20);
    expect(now!.thrownAway.litres).toBeGreaterThan(500);
    expect(later!.thrownAway.litres).toBeLessThan(0.2 * now!.thrownAway.litres);
    expect(until).toBeLessThan(runOut!.litres.typical);
    expect(untilDays! / until).toBeCloseTo(7 / 500, 3);
    expect(risk).toBeLessThan(0.05);
    // Until then the lead lets four fifths of its feed through.
    const { belief, question } = train.beds[0]!.worked;
    const [givenLoad, draws] = [question.used + (until * question.feed.median) / 100, 50];
    const shares = Array.from({ length: draws }, (_, i) =>
      outputOf(belief, chargeAt(belief, (i + 0.5) / draws))(givenLoad),
    );
    expect(Math.abs(shares.reduce((sum, share) => sum + share / draws, 0) - 0.8)).toBeLessThan(0.08);
    expect(Math.abs(shares.filter((share) => share >= 0.8).length / draws - 0.5)).toBeLessThan(0.05);
    // 11.5 L at 9 and twenty minutes at the wage; half as much again is thrown away with a lag that is nearly fresh.
    expect(rotate!.money).toBeCloseTo(11.5 * 9 + DEFAULT_PRICES.wage / 3, 9);
    expect(all!.money).toBeCloseTo(2 * rotate!.money, 9);
    expect(all!.thrownAway.litres).toBeGreaterThan(3 * rotate!.thrownAway.litres);
    expect(rotate!.thrownAway.money).toBeLessThan(0.25 * 11.5 * 9);
    expect(rotate!.days! / rotate!.litres.typical).toBeCloseTo(7 / (5 * 100), 3);
    expect(trainWorth({ beds: train.beds.slice(1) }, { use: "glass" }, DEFAULT_PRICES, 20)).toEqual([]);
  });
  test("a spent lead asks for rotation while the lag is clean, and stop is said by the last alone", () => {
    const lead = rising(14);
    const told = two(days(19, (day) => ({ "stage-0": lead(day), "stage-1": 0 })));
    const train = trainOf(told);
    expect(train.beds.map(({ verdict }) => verdict)).toEqual([
      { state: "watch", reasons: ["lead-spent"] },
      { state: "fine", reasons: [] },
    ]);
    expect(train.verdict).toEqual({ state: "watch", reasons: ["lead-spent"] });
    expect(said(told)[0]).toMatch(/^The lead, Vessel a, out 48 ppm nacl, is spent. Vessel b still guards: move it/);
  });
  test("of three the one behind a spent lead goes to the front, not the last", () => {
    const lead = rising(14);
    const told: TrainTold = {
      stages: [{ kind: "resin" }, { kind: "resin" }, { kind: "resin" }],
      arrangements: [arranged("first", BEFORE, ["a", "b", "c"])],
      charges: [...both, filled("c", BEFORE)],
      days: days(19, (day) => ({ "stage-0": lead(day), "stage-1": 0, "stage-2": 0 })),
    };
    expect(said(told)).toEqual([
      "The lead, Vessel a, out 48 ppm nacl, is spent. Vessel b still guards: move it to the front and hang fresh resin behind.",
    ]);
  });
  test("both off zero means both are spent", () => {
    const [lead, lag] = [rising(12), rising(28)];
    const told = two(days(34, (day) => ({ "stage-0": lead(day), "stage-1": lag(day) })));
    const { verdict } = trainOf(told);
    expect(verdict.state).toBe("change");
    expect(verdict.reasons).toEqual(["above-hard", "lead-spent"]);
    expect(said(told)[1]).toMatch(/both off zero: both are spent. Replace both/);
  });
  test("an odd reading behind the lead is read again", () => {
    const told = two(days(6, (day) => ({ "stage-0": day === 5 ? 60 : 0, "stage-1": 0 })));
    const train = trainOf(told);
    expect(train.beds[0]!.verdict).toEqual({ state: "watch", reasons: ["odd-reading"] });
    expect(train.verdict).toEqual({ state: "watch", reasons: ["lead-odd"] });
    expect(said(told)).toEqual([
      "The lead, Vessel a, out 60 ppm nacl, above your limit. Let it run a minute and look again; if it stands, Vessel b leads and fresh resin hangs behind.",
    ]);
    // What the last gives is not in doubt by it.
    const { vessel, worked } = train.beds[1]!;
    const facts = { rig: trainFacts(told).rig, vessel, lead: spentLead(train) };
    expect(headlineOf({ ...worked.standing, verdict: train.verdict }, facts)).toEqual({
      litres: worked.standing.left,
      to: "left",
    });
    expect(verdictTitle({ ...worked.standing, verdict: train.verdict }, facts.rig, facts.lead)).toBe(
      "Watch: look again",
    );
  });
  test("a lead that nobody reads is spent by the count", () => {
    const { verdict, beds } = trainOf(two(days(38, { "stage-1": 0 })));
    expect(beds[0]!.verdict.reasons).toEqual(["lead-spent"]);
    expect(verdict.reasons).toContain("lead-spent");
    expect(said(two(days(38, { "stage-1": 0 }))).join(" ")).toMatch(/by the count, is spent/);
  });
  test("and only from four fifths of what is believed of it on", () => {
    const leads = Array.from({ length: 14 }, (_, i) => trainOf(two(days(24 + i, { "stage-1": 0 }))).beds[0]!);
    const found = leads.map(({ worked, verdict }) => [worked.standing.limitReached, verdict.state] as const);
    for (const [reached, state] of found) expect(state).toBe(reached >= 0.8 ? "watch" : "fine");
    // Both sides of it, and near, are among them.
    expect(found.some(([reached]) => reached > 0.7 && reached < 0.8)).toBe(true);
    expect(found.some(([reached]) => reached >= 0.8 && reached < 0.9)).toBe(true);
  });
});

describe("futures of a bed behind others", () => {
  const three = trainOf({
    stages: [{ kind: "resin" }, { kind: "resin" }, { kind: "resin" }],
    arrangements: [arranged("first", BEFORE, ["a", "b", "c"])],
    charges: [filled("a", BEFORE), filled("b", BEFORE), filled("c", BEFORE)],
    days: days(18, { last: 0 }),
  }).beds.map(({ worked: { belief, question } }) => ({ belief, used: question.used }));
  const [a, b, last] = three as [BedAhead, BedAhead, BedAhead];
  const feed = 320;
  const middle = (bed: BedAhead) => chargeAt(bed.belief, 0.5);
  test("do not hang on the litres of a step", () => {
    const to = Array.from({ length: 50 }, (_, i) => (i + 1) * 200);
    const every = (litres: number) =>
      to.flatMap((at) => Array.from({ length: 200 / litres }, (_, i) => at - 200 + (i + 1) * litres));
    const at = (litres: number) => {
      const all = outputsToCome(last, [[a], [b]], middle(last), () => 0.5, feed, every(litres));
      return to.map((_, i) => all[((i + 1) * 200) / litres - 1]!);
    };
    const [coarse, fine] = [at(200), at(20)];
    const sum = (of: readonly number[]) => of.reduce((all, each) => all + each, 0);
    expect(sum(coarse) / sum(fine)).toBeCloseTo(1, 4);
  });
  test("of one that lets the mark past by itself end once the one ahead lets four fifths through", () => {
    const none = markOf(0.01, feed, last.belief);
    const drawn = Array.from({ length: 200 }, (_, i) => chargeAt(last.belief, (i + 0.5) / 200)).find(
      (each) => loadAtMark(last.belief, none, each) === 0,
    )!;
    const litres = drawnLeft(last, none, [[a]], drawn, () => 0.5, feed);
    expect(outputOf(a.belief, middle(a))(a.used + (litres * feed) / 100)).toBeCloseTo(0.8, 2);
  });
});

describe("a rotation", () => {
  const lead = rising(14);
  const spentAt = evening(18);
  const ended = filled("a", BEFORE, { ended: { at: new Date(spentAt).toISOString(), why: "limit" } });
  const told: TrainTold = {
    arrangements: [hung, arranged("rotated", spentAt, ["b", "c"])],
    charges: [ended, filled("b", BEFORE), filled("c", spentAt)],
    days: days(30, (day) => (day <= 18 ? { "stage-0": lead(day), "stage-1": 0 } : { "stage-0": 0, "stage-1": 0 })),
  };
  test("the lag goes on as lead with what it had taken, the fresh one behind it", () => {
    const { beds, books } = trainOf(told);
    expect(beds.map(({ vessel }) => vessel.id)).toEqual(["b", "c"]);
    const b = books.charges.find(({ charge }) => charge.vesselId === "b")!;
    expect(b.lines.map(({ place }) => place).filter((place) => place === 1)).toHaveLength(19);
    const [leaked, fed] = [1, 0].map((place) =>
      b.lines.reduce((sum, line) => sum + (line.place === place ? (line.litres * line.feedEc25) / 100 : 0), 0),
    );
    const between = (day: number) => (lead(day - 1) + lead(day)) / 2;
    expect(leaked).toBeCloseTo((100 * 2 * days(18, {}).reduce((sum, _, day) => sum + between(day + 1), 0)) / 100, 6);
    expect(fed).toBeCloseTo(11 * 320, 6);
    expect(beds[0]!.worked.standing.used.meq).toBeCloseTo(leaked! + fed!, 9);
  });
  test("where the water is known the old lag has what it had the hour before: by all that was read of the lead", () => {
    const tap = { ...trainFacts(told).taps.get("tap")!, alkalinity: 110, ph: 7.4 };
    const loadsOf = (more: TrainTold) => {
      const { books } = unwrap(workTrain({ ...trainFacts(more), taps: new Map([["tap", tap]]) }));
      return books.charges.find(({ charge }) => charge.vesselId === "b")!.loads!;
    };
    // A while on the carbonic plateau, whose readings alone leave open where it began.
    const slowly = [0, 2, 4, 5, 5, 6, 6, 6, 6, 7, 7, 8, 11];
    const at = evening(28);
    const readSoFar = days(29, (day) => ({ "stage-0": slowly[Math.max(0, day - 16)]!, "stage-1": 0 }));
    const before = loadsOf(two(readSoFar));
    const after = loadsOf({
      days: readSoFar,
      arrangements: [hung, arranged("rotated", at, ["b", "c"])],
      charges: [
        filled("a", BEFORE, { ended: { at: new Date(at).toISOString(), why: "limit" } }),
        filled("b", BEFORE),
        filled("c", at),
      ],
    });
    expect(before.anions[0]).toBeGreaterThan(500);
    // What the end of a charge says beside its readings is little.
    expect(Math.abs(after.anions[0]! / before.anions[0]! - 1)).toBeLessThan(0.05);
  });
  test("nothing is lost or doubled: what the beds took and what left the last is what came", () => {
    const { books } = trainOf(told);
    const came = books.water.reduce((sum, { litres }) => sum + litres, 0);
    const first = books.charges.flatMap(({ lines }) => lines.filter(({ place }) => place === 0));
    expect(first.reduce((sum, { litres }) => sum + litres, 0)).toBeCloseTo(came, 9);
    const second = books.charges.flatMap(({ lines }) => lines.filter(({ place }) => place === 1));
    expect(second.reduce((sum, { litres }) => sum + litres, 0)).toBeCloseTo(came, 9);
  });
  test("what the ended lead taught counts for the crew", () => {
    const { beds } = trainOf(told);
    expect(beds.map(({ worked }) => worked.standing.taught)).toEqual([1, 1]);
    expect(beds[0]!.owner.capacity).toEqual(beds[1]!.owner.capacity);
  });
  test("what is known of the owner's charges is taken as it is, and only the rest is learnt", () => {
    const { owners, beds } = trainOf(told);
    const left = (known: typeof owners) =>
      unwrap(workTrain({ ...trainFacts(told), owners: known })).beds.map(({ worked }) => worked.standing.left);
    const learnt = beds.map(({ worked }) => worked.standing.left);
    expect([left(owners), left(new Map([...owners].slice(0, 1)))]).toEqual([learnt, learnt]);
  });
  test("a swap without a refill leaves each its own, though each stood behind the other", () => {
    const turned = trainOf({
      arrangements: [hung, arranged("turned", evening(6), ["b", "a"])],
      charges: both,
      days: days(12, { "stage-0": 0, "stage-1": 0 }),
    });
    const meq = turned.books.charges.map(({ lines }) =>
      lines.reduce((sum, { litres, feedEc25 }) => sum + (litres * feedEc25) / 100, 0),
    );
    expect(meq).toEqual([expect.closeTo(6 * 320, 6), expect.closeTo(5 * 320, 6)]);
  });
  test("with the lag taken out the lead is the last", () => {
    const out = trainOf({
      ...two(days(8, { last: 7 })),
      arrangements: [hung, arranged("out", evening(3), ["a", undefined])],
    });
    expect(out.beds.map(({ vessel, isLast }) => [vessel.id, isLast])).toEqual([["a", true]]);
    expect(out.books.charges.map(({ outputs }) => outputs.length)).toEqual([4, 4]);
    expect(out.verdict.state).toBe("watch");
  });
  test("a train without a charge asks to be filled", () => {
    const empty = trainOf({
      ...two(days(2, {})),
      charges: [filled("a", BEFORE, { ended: { at: new Date(BEFORE).toISOString(), why: "early" } })],
    });
    expect(empty.verdict).toEqual({ state: "change", reasons: ["no-charge"] });
    expect(lastBed(empty)).toMatchObject({ fault: { message: "No charge is in use: fill the vessel." } });
  });
  test("a rig whose only vessel was taken out asks for one, and its water goes through nobody's charge", () => {
    const bare = trainOf({
      ...{ stages: [{ kind: "resin" }], charges: [filled("a", BEFORE)], days: days(4, { last: 0 }) },
      arrangements: [arranged("in", BEFORE, ["a"]), arranged("out", evening(1), [undefined])],
    });
    expect(bare.beds).toEqual([]);
    expect(bare.verdict).toEqual({ state: "change", reasons: ["no-charge"] });
    expect(lastBed(bare)).toMatchObject({ fault: { message: "No vessel stands in this rig: hang one in." } });
    expect(bare.books.charges[0]!.lines.map(({ litres }) => litres)).toEqual([0, 100]);
  });
});

describe("a vessel that moves to another rig", () => {
  const trailer = trainRig([{ kind: "resin" }], { id: "trailer", name: "Trailer" });
  const visit = (id: string, rigId: string, day: number, litres: number) => ({
    ...{ id, rigId, tapId: "tap", at: new Date(evening(day) - 3_600_000).toISOString() },
    water: { by: "jobs" as const, jobs: 1, litresPerJob: litres },
    readings: [],
  });
  test("takes its load along", () => {
    const facts = trainFacts({
      stages: [{ kind: "resin" }],
      arrangements: [arranged("here", BEFORE, ["a"]), { ...arranged("there", evening(1), ["a"]), rigId: "trailer" }],
      charges: [filled("a", BEFORE)],
      rigs: [trailer],
      days: [],
      visits: [visit("1", "rig", 0, 200), visit("2", "rig", 3, 999), visit("3", "trailer", 4, 50)],
    });
    const now = { ...facts, now: evening(5) };
    expect(unwrap(workTrain(now)).beds).toEqual([]);
    const there = unwrap(workTrain({ ...now, rig: trailer }));
    expect(there.beds[0]!.worked.standing.used.litres).toBe(250);
    // Nothing stood in the first rig when its 999 L were drawn.
    expect(rigLedger(now).water.map(({ litres }) => litres)).toEqual([200, 999]);
  });
});

describe("cation and anion beds before a mixed one", () => {
  const stages = [{ kind: "resin" }, { kind: "resin" }, { kind: "resin" }] as const;
  const told = (of: readonly Read[]): TrainTold => ({
    stages,
    arrangements: [arranged("first", BEFORE, ["k", "a", "m"])],
    charges: [filled("k", BEFORE, { beads: "cation" }), filled("a", BEFORE, { beads: "anion" }), filled("m", BEFORE)],
    days: of,
  });
  test("hold by their own side, both fed by the tap", () => {
    const { beds } = trainOf(told(days(5, { "stage-1": 0, "stage-2": 0 })));
    const [k, a, m] = beds.map(({ worked }) => worked.standing);
    expect([k!.gradeCapacity, a!.gradeCapacity, m!.gradeCapacity]).toEqual([1.8, 1, 0.56]);
    expect(k!.used.meq).toBeCloseTo(4 * 320, 6);
    expect(a!.used.meq).toBeCloseTo(4 * 320, 6);
    expect(m!.used.meq).toBe(0);
    expect(beds.map(({ isLast }) => isLast)).toEqual([false, false, true]);
  });
  test("what is read behind them is of the one nearer its end; acid behind the cation bed is no product", () => {
    const { books } = trainOf(told(days(5, { "stage-0": 300, "stage-1": 3, "stage-2": 0 })));
    expect(books.charges.map(({ outputs }) => outputs.length)).toEqual([0, 5, 5]);
    expect(books.charges[2]!.lines[4]).toMatchObject({ fedBy: "read", feedEc25: 6 });
  });
  test("alone at the end they are both the last", () => {
    const { beds, verdict } = trainOf({
      ...told(days(3, { last: 0 })),
      stages: stages.slice(0, 2),
      arrangements: [arranged("first", BEFORE, ["k", "a"])],
    });
    expect(beds.map(({ isLast }) => isLast)).toEqual([true, true]);
    expect(verdict.state).toBe("fine");
  });
  test("spent ask to be filled where they stand, not to be rotated", () => {
    const read = told(days(45, { "stage-2": 0 }));
    const { verdict, beds } = trainOf(read);
    expect(beds[1]!.verdict.reasons).toEqual(["lead-spent"]);
    expect(verdict.reasons).toContain("lead-spent");
    const [words] = said(read);
    expect(words).toBe(
      "The anion bed, Vessel a, by the count, is spent. Vessel m still guards: fill Vessel a anew, in its own place.",
    );
    // The cation bed is one of a pair: it is not the other one of it that guards.
    const [k, a, m] = beds.map(({ vessel, worked }) => ({ vessel, standing: worked.standing }));
    const facts = { rig: trainFacts(read).rig, vessel: m!.vessel, lead: { ...k!, next: a!.vessel, isOdd: false } };
    expect(reasonWords("lead-spent", m!.standing, facts, wording)).toMatch(
      /^The cation bed, .* Vessel m still guards: fill Vessel k anew/,
    );
    const lead = spentLead({ beds });
    const titleOf = (of: typeof lead) => verdictTitle({ ...beds[2]!.worked.standing, verdict }, { use: "glass" }, of);
    expect([titleOf(lead), titleOf(undefined)]).toEqual(["Watch: refill", "Watch: rotate"]);
  });
  test("stand where they stand: none of them leads, and no rotation is weighed", () => {
    const { beds } = trainOf(told(days(5, { "stage-2": 0 })));
    for (const each of [beds, beds.slice(0, 2)]) {
      expect(leadOf(each)).toBeUndefined();
      expect(trainWorth({ beds: each }, { use: "glass" }, DEFAULT_PRICES, 20)).toEqual([]);
    }
    const mixed = trainOf(two(days(5, { "stage-1": 0 }))).beds;
    expect([leadOf(mixed)?.vessel.id, leadOf(mixed.slice(1))]).toEqual(["a", undefined]);
  });
});

describe("a train's standing over the API", () => {
  /** A lead that gives way every 17 work-days, four trains long: three rotations of a and b, then c swapped in for b. */
  const CYCLE = 17;
  const [first, second, third, swap] = [1, 2, 3, 3.4].map((n) => evening(Math.round(n * CYCLE)));
  const ended = (vesselId: string, from: number, to: number) =>
    filled(vesselId, from, { ended: { at: new Date(to).toISOString(), why: "limit" } });
  const arrangements = [
    hung,
    arranged("r1", first!, ["b", "a"]),
    arranged("r2", second!, ["a", "b"]),
    arranged("r3", third!, ["b", "a"]),
    arranged("s", swap!, ["c", "a"]),
  ];
  const charges = [
    ended("a", BEFORE, first!),
    ended("b", BEFORE, second!),
    ended("a", first!, third!),
    filled("b", second!),
    filled("a", third!),
    filled("c", swap!),
  ];
  const lead = (day: number) => (day > 3.4 * CYCLE ? 0 : rising(CYCLE - 4)(day % CYCLE));
  const reads = days(70, (day) => ({ "stage-0": lead(day), "stage-1": 0 }));
  /** What is answered when so many days have been lived. */
  const after = (count: number) => {
    const facts = trainFacts({ arrangements, charges, days: reads.slice(0, count) });
    const now = evening(count - 1) + 1;
    const isKnown = (at: string) => Date.parse(at) <= now;
    return unwrap(
      rigStanding({
        ...{ now: new Date(now).toISOString(), timeZone: "UTC", rig: facts.rig, vessels: facts.train!.vessels },
        arrangements: arrangements.filter(({ at }) => isKnown(at)),
        taps: [...facts.taps.values()],
        meters: [...facts.meters.values()],
        charges: charges
          .filter(({ filledAt }) => isKnown(filledAt))
          .map(({ ended: end, ...charge }) => (end && isKnown(end.at) ? { ...charge, ended: end } : charge)),
        visits: facts.visits,
      }),
    );
  };
  const said = ({ vessels, train }: ReturnType<typeof after>) => [
    vessels.map(({ vesselId, verdict }) => `${vesselId} ${verdict.state}`).join(", "),
    [train.state, ...train.reasons.map(({ code }) => code)].join(" "),
  ];
  test("tells two beds, three rotations and a swap", () => {
    expect([5, 17, 20, 34, 37, 51, 54, 60].map((count) => said(after(count)))).toEqual([
      ["a fine, b fine", "fine"],
      ["a watch, b fine", "watch lead-spent"],
      ["b fine, a fine", "fine"],
      ["b watch, a fine", "watch lead-spent"],
      ["a fine, b fine", "fine"],
      ["a watch, b fine", "watch lead-spent"],
      ["b fine, a fine", "fine"],
      ["c fine, a fine", "fine"],
    ]);
  });
  test("with litres and dates for each: the lead's until it is spent, the last's until the train is", () => {
    const { vessels } = after(20);
    const [b, a] = vessels;
    expect([b!.leftTo, a!.leftTo]).toEqual(["limit", "limit"]);
    // What b had taken as lag is on its account beside what it took since it leads.
    expect(b!.treated).toBeCloseTo(1900, 6);
    expect(a!.treated).toBeCloseTo(200, 6);
    expect(a!.left!.low).toBeGreaterThan(b!.left!.high);
    expect(b!.dates!.late <= a!.dates!.early).toBe(true);
    const { vessels: spent } = after(17);
    expect([spent[0]!.left, spent[0]!.leftTo, spent[1]!.leftTo]).toEqual([undefined, "none", "limit"]);
  });
  test("a train whose vessels nobody placed is to be filled", () => {
    const facts = trainFacts({ arrangements: [], charges, days: reads.slice(0, 3) });
    const none = unwrap(
      rigStanding({
        ...{ now: new Date(facts.now).toISOString(), timeZone: "UTC", rig: facts.rig, vessels: facts.train!.vessels },
        ...{ taps: [...facts.taps.values()], meters: [...facts.meters.values()], charges, visits: facts.visits },
      }),
    );
    expect(none.train).toMatchObject({ state: "change", reasons: [{ code: "no-charge" }] });
  });
});

describe("what each stage before the resin does at this tap", () => {
  const stages = [{ kind: "sediment" }, { kind: "membrane", rejection: 0.95 }, { kind: "resin" }] as const;
  const told: TrainTold = {
    stages,
    arrangements: [arranged("first", BEFORE, ["a"], "rig", 2)],
    charges: [filled("a", BEFORE)],
    days: days(6, { last: 0 }),
  };
  const facts = trainFacts(told);
  const tap = { ...facts.taps.get("tap")!, alkalinity: 120, ph: 7.2 };
  const reports = [
    {
      ...{ id: "r", tapId: "tap", sampledOn: "2027-01-01", source: "typed" as const },
      values: { alkalinity: 120, ph: 7.2, chloramine: 2 },
    },
  ];
  const at = (input = facts) => {
    const [bed] = unwrap(workTrain(input)).beds;
    return stagesAtTap(input, bed!, DEFAULT_PRICES);
  };
  test("a membrane stretches a charge by what it holds back, and says what leaving it out costs", () => {
    const [sediment, membrane, ...next] = at();
    expect(sediment).toMatchObject({ kind: "sediment", stageId: "stage-0", saves: 0 });
    expect(sediment!.costs).toBe(DEFAULT_PRICES.prefiltersPerYear / 2);
    expect(membrane!.feed).toEqual({ with: expect.closeTo(16, 6), without: expect.closeTo(320, 6) });
    expect(membrane!.litres.with / membrane!.litres.without).toBeGreaterThan(20);
    const { charges, saves, costs } = membrane!;
    const perCharge = 11.5 * 9 + (DEFAULT_PRICES.minutesPerRefill * DEFAULT_PRICES.wage) / 60;
    expect(saves).toBeCloseTo((charges.without - charges.with) * perCharge, 9);
    // A third of a membrane, and one and a half litres wasted for each of some 26 m³.
    const yearly = charges.with * membrane!.litres.with;
    expect(costs).toBeCloseTo(70 / 3 + (1.5 * yearly * (2.4 + 2)) / 1000, 6);
    expect(next.map(({ kind, stageId }) => [kind, stageId])).toEqual([
      ["carbon", undefined],
      ["degasser", undefined],
    ]);
  });
  test("where the water is known air has its worth behind a membrane, and chlorine is counted against the carbon", () => {
    const known = {
      ...facts,
      taps: new Map([["tap", tap]]),
      reports,
      rig: trainRig([{ kind: "carbon", chlorineGrams: 30 }, ...stages.slice(1)]),
    };
    const found = at(known);
    const of = (kind: string) => found.find((each) => each.kind === kind)!;
    expect(of("degasser").litres.with).toBeGreaterThan(1.15 * of("degasser").litres.without);
    const yearly = of("membrane").charges.with * of("membrane").litres.with;
    expect(of("carbon").chlorineAYear).toBeCloseTo((2 * yearly) / 1000, 6);
    expect(of("carbon").chlorineMonths).toBeCloseTo((12 * 30) / of("carbon").chlorineAYear!, 6);
    expect(of("sediment").stageId).toBeUndefined();
    // One that is not there yet holds back 95 of 100.
    const bare = at({ ...facts, rig: trainRig([{ kind: "resin" }]) }).find(({ kind }) => kind === "membrane")!;
    expect(bare.feed.with / bare.feed.without).toBeCloseTo(0.05, 9);
  });
});
