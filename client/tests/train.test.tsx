import { fireEvent, screen } from "@testing-library/react";
import type { Arrangement, Charge, Rig, Vessel, Visit } from "@winter-bead/core";
import fc from "fast-check";
import { carryOver } from "../features/log/carry-over";
import { draftVisit, EMPTY_DRAFT, textIn, typedInto } from "../features/log/draft-visit";
import { boxesOf, pointsOf } from "../features/log/points";
import { worthWords } from "../features/rack/worth-words";
import { assess, type BedAssessment, type RigFacts } from "../features/rack/assess";
import { gather } from "../features/rack/gather";
import {
  actWords,
  bedNames,
  drawnStages,
  firstToFill,
  vesselsBefore,
  vesselsHere,
  vesselView,
} from "../features/rack/train-views";
import { StageList } from "../features/setup/StageList";
import { newStage, stagesFrom, typedStages, type TypedStage } from "../features/setup/stages-as-typed";
import type { Log } from "../features/log/useLog";
import { inApp } from "./in-app";
import { charge, DAY, meter, rig, START, tap, vessel } from "./sample-rig";

const iso = (at: number) => new Date(at).toISOString();
const stages: Rig["stages"] = [
  { id: "s", kind: "sediment" },
  { id: "c", kind: "carbon" },
  { id: "m", kind: "membrane", rejection: 0.95 },
  { id: "1", kind: "resin" },
  { id: "2", kind: "resin" },
];
const van: Rig = { ...rig, id: "van", name: "Van", stages };
const [lead, lag, spare] = ["lead", "lag", "spare"].map((id): Vessel => ({ ...vessel, id, name: `The ${id}` }));
const filled = (vesselId: string, rigId = "van"): Charge => ({ ...charge, id: `in ${vesselId}`, vesselId, rigId });
const arranged = (id: string, at: number, first: string | undefined, second: string | undefined): Arrangement => ({
  ...{ id, rigId: "van", at: iso(at) },
  places: [
    { stageId: "1", ...(first ? { vesselId: first } : {}) },
    { stageId: "2", ...(second ? { vesselId: second } : {}) },
  ],
});
const visit = (day: number, behindLead: number, out: number): Visit => ({
  ...{ id: `v${day}`, rigId: "van", tapId: "tap", at: iso(START + day * DAY) },
  water: { by: "total", total: 100 * (day + 1) },
  readings: [
    { id: `l${day}`, point: "output", stageId: "1", value: behindLead, meterId: "meter" },
    { id: `o${day}`, point: "output", stageId: "2", value: out, meterId: "meter" },
    { id: `f${day}`, point: "after-membrane", value: 80, meterId: "meter" },
  ],
});

function factsWith(
  arrangements: readonly Arrangement[],
  more: Partial<{ rigs: Rig[]; visits: Visit[] }> = {},
): RigFacts {
  const { rigs = [van], visits = [0, 1, 2].map((day) => visit(day, 0, 0)) } = more;
  const charges = [filled("lead"), filled("lag"), filled("spare", "trailer")];
  const facts = gather(
    [rigs, [lead!, lag!, spare!], [tap], [meter], charges, visits, [], [], arrangements, []],
    { bookings: [], usualWeeks: [], daysOff: [] },
    START + 5 * DAY,
  );
  return facts.find((each) => each.rig.id === "van")!;
}
const two = arranged("first", START - DAY, "lead", "lag");

describe("a train of two", () => {
  const facts = factsWith([two]);
  test("is spoken of by its last vessel, each with its own standing", () => {
    expect(facts.vessel.id).toBe("lag");
    const assessment = assess(facts);
    expect(assessment.beds!.map(({ vesselId, isLast }) => [vesselId, isLast])).toEqual([
      ["lead", false],
      ["lag", true],
    ]);
    expect(assessment.standing!.charge.vesselId).toBe("lag");
    const view = { facts, assessment };
    expect(vesselView(view, "lag")).toBe(view);
    const ofLead = vesselView(view, "lead");
    expect([ofLead.facts.vessel.id, ofLead.assessment!.standing!.charge.vesselId]).toEqual(["lead", "lead"]);
    expect(ofLead.assessment!.front!.length).toBeGreaterThan(10);
    const swapped = factsWith([two, arranged("swap", START + DAY, "lag", "spare")]);
    expect(vesselView({ facts: swapped, assessment }, "lead").assessment!.standing).toBeDefined();
    expect(vesselView({ facts: swapped, assessment: {} }, "lead").assessment!.because).toMatch(/No charge/);
  });
  test("what can be done with a spent lead is said of the vessels that the answer is about, also while another is worked out", () => {
    const assessment = assess(factsWith([two], { visits: [0, 1, 2].map((day) => visit(day, 60, 0)) }));
    const wordsOf = (now: RigFacts) =>
      assessment.worth!.map(({ act }) => actWords(act, bedNames({ facts: now, assessment })));
    const said = wordsOf(facts);
    expect(said).toEqual(expect.arrayContaining(["Refill The lead now, The lag leads", "Use The lead up first"]));
    expect(wordsOf(factsWith([two, arranged("out", START, "lead", undefined)]))).toEqual(said);
    expect(wordsOf(factsWith([two, arranged("swap", START, "lag", "lead")]))).toEqual(said);
  });
  test("is drawn along the flow, by its arrangement", () => {
    const kinds = (of: RigFacts) =>
      drawnStages({ facts: of, assessment: undefined }).map((each) => each.vessel?.id ?? each.kind);
    expect(kinds(facts)).toEqual(["sediment", "carbon", "membrane", "lead", "lag"]);
    const turned = { ...two, places: [...two.places].reverse() };
    expect(kinds(factsWith([turned]))).toEqual(["sediment", "carbon", "membrane", "lag", "lead"]);
    expect(kinds(factsWith([two, arranged("out", START, "lead", undefined)]))).toEqual([
      ...["sediment", "carbon", "membrane", "lead"],
      "resin",
    ]);
  });
  test("what stood there once is looked back on; a vessel that came from elsewhere brings its facts", () => {
    const swapped = factsWith([two, arranged("swap", START + DAY, "lag", "spare")]);
    expect(vesselsHere(swapped).map(({ id }) => id)).toEqual(["lag", "spare"]);
    expect(vesselsBefore(swapped).map(({ id }) => id)).toEqual(["lead"]);
    const trailer: Arrangement = { ...arranged("t", START - DAY, "spare", undefined), rigId: "trailer" };
    const came = factsWith([two, trailer, arranged("swap", START + DAY, "lag", "spare")], {
      rigs: [van, { ...van, id: "trailer", name: "Trailer" }],
      visits: [visit(0, 0, 0), { ...visit(1, 0, 0), id: "elsewhere", rigId: "trailer" }],
    });
    expect(came.visits.map(({ id }) => id)).toEqual(["v0"]);
    expect(came.elsewhere.visits.map(({ id }) => id)).toEqual(["elsewhere"]);
    expect(came.charges.map(({ vesselId }) => vesselId)).toContain("spare");
  });
});

describe("what the log offers of a train", () => {
  const facts = factsWith([two]);
  const points = pointsOf(facts);
  test("is every point of it, four boxes of them, the others by name", () => {
    expect(points.map(({ label }) => label)).toEqual(["Feed", "After carbon", "After RO", "After lead", "Output"]);
    const labels = (asked: Parameters<typeof boxesOf>[1]) => {
      const { shown, waiting } = boxesOf(points, asked);
      return [shown.map(({ label }) => label), waiting.map(({ label }) => label)];
    };
    expect(labels([])).toEqual([
      ["After RO", "After lead", "Output"],
      ["Feed", "After carbon"],
    ]);
    expect(labels(["carbon"])[0]).toEqual(["After carbon", "After RO", "Output"]);
    expect(labels(["carbon", "feed"])[0]).toEqual(["Feed", "After carbon", "Output"]);
    expect(boxesOf(pointsOf(factsWith([arranged("one", START, "lead", undefined)])), []).shown).toHaveLength(3);
  });
  test("each is typed into a field of its own, and kept with its stage", () => {
    let draft = { ...EMPTY_DRAFT, meterId: "meter", tapId: "tap" };
    draft = { ...draft, ...typedInto(draft, "behind:1", "12") };
    draft = { ...draft, ...typedInto(draft, "output", "3") };
    draft = { ...draft, ...typedInto(draft, "carbon", "160") };
    expect([textIn(draft, "behind:1"), textIn(draft, "behind:2"), textIn(draft, "output")]).toEqual(["12", "", "3"]);
    const parts = { rig: van, points, meters: [meter], units: "metric" as const, lastTotal: undefined };
    const { body } = draftVisit(draft, parts, () => "id");
    expect(body!.readings.map(({ point, stageId, value }) => [point, stageId, value])).toEqual([
      ["after-carbon", undefined, 160],
      ["output", "1", 12],
      ["output", "2", 3],
    ]);
    // A draft that an older version of the page kept has no such fields.
    const { behind: _, ...older } = { ...EMPTY_DRAFT, behind: undefined };
    expect(textIn(older, "behind:1")).toBe("");
  });
  test("what was typed behind a stage stays with its train", () => {
    const patched: object[] = [];
    const draft = { ...EMPTY_DRAFT, output: "3", behind: { "1": "12" } };
    carryOver({ draft, patch: (part: object) => patched.push(part), units: "metric" } as unknown as Log, {
      facts,
      assessment: undefined,
    });
    expect(patched).toEqual([]);
  });
});

describe("setting up a train", () => {
  const Editor = ({
    from,
    onChange,
  }: {
    from: readonly TypedStage[];
    onChange: (to: readonly TypedStage[]) => void;
  }) => (
    <StageList
      stages={from}
      onChange={onChange}
      vessels={[{ value: "lead", label: "The lead" }]}
      units="metric"
      error={undefined}
    />
  );
  const typed = typedStages(stages, two.places, "metric");
  const edited = (does: () => void) => {
    let last: readonly TypedStage[] = [];
    inApp(<Editor from={typed} onChange={(to) => (last = to)} />);
    does();
    return last.map(({ kind }) => kind);
  };
  test("moves a stage by its arrows and by Alt with the arrow keys", () => {
    expect(edited(() => fireEvent.click(screen.getByTestId("down-0")))).toEqual([
      ...["carbon", "sediment", "membrane", "resin", "resin"],
    ]);
  });
  test("moves it by keys", () =>
    expect(edited(() => fireEvent.keyDown(screen.getByTestId("grip-2"), { key: "ArrowUp", altKey: true }))).toEqual([
      ...["sediment", "membrane", "carbon", "resin", "resin"],
    ]));
  test("adds a stage where it usually stands", () =>
    expect(edited(() => fireEvent.click(screen.getByTestId("add-degasser")))).toEqual([
      ...["sediment", "carbon", "membrane", "degasser", "resin", "resin"],
    ]));
  test("takes one out where it is opened, but never the last place for resin", () => {
    const out = edited(() => {
      fireEvent.click(screen.getByTestId("open-stage-1"));
      fireEvent.click(screen.getByTestId("remove-carbon"));
    });
    expect(out).toEqual(["sediment", "membrane", "resin", "resin"]);
  });
  test("no edit but taking out loses a stage: moved, opened, typed into, kept again in any order", () => {
    const kinds = ["sediment", "carbon", "membrane", "degasser", "resin"] as const;
    const train = fc.array(fc.constantFrom(...kinds), { minLength: 1, maxLength: 11 });
    fc.assert(
      fc.property(train, fc.array(fc.tuple(fc.nat(11), fc.nat(11))), (told, moves) => {
        const known = stagesFrom(
          told.map((kind, i) => newStage(kind, `stage-${i}`, "metric")),
          [],
          "metric",
        );
        let list = typedStages(known, [], "us");
        for (const [from, to] of moves) {
          const [thing] = list.slice(from, from + 1);
          if (!thing || to >= list.length) continue;
          const others = list.filter((each) => each !== thing);
          list = [...others.slice(0, to), thing, ...others.slice(to)];
        }
        const kept = stagesFrom(list, known, "us");
        expect([...kept].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(
          [...known].sort((a, b) => (a.id < b.id ? -1 : 1)),
        );
      }),
    );
  });
});

describe("the vessel that is filled first", () => {
  const [a, b] = [vessel, { ...vessel, id: "behind", name: "Behind" }];
  const bed = (vesselId: string, state: "fine" | "change" | "finish" | "watch", reasons: readonly string[] = []) =>
    ({ vesselId, verdict: { state, reasons } }) as unknown as BedAssessment;
  const both = new Set([a.id, b.id]);
  test.each<[string, ReadonlySet<string>, readonly BedAssessment[] | undefined, string]>([
    ["the first of the flow while nothing asks", both, [bed(a.id, "fine"), bed(b.id, "fine")], a.id],
    ["so before the answer is there", both, undefined, a.id],
    ["a spent lead", both, [bed(a.id, "watch", ["lead-spent"]), bed(b.id, "finish")], a.id],
    ["the spent one that stands last since a rotation", both, [bed(a.id, "fine"), bed(b.id, "change")], b.id],
    ["an empty one", new Set([a.id]), [bed(a.id, "watch", ["lead-spent"])], b.id],
  ])("is %s", (_, filled, beds, expected) => expect(firstToFill([a, b], filled, beds)!.id).toBe(expected));
});

describe("a lead run to near exhaustion", () => {
  const worth = {
    ...{ act: "run-lead" as const, litres: { low: 3000, typical: 4000, high: 5000 }, days: 40, fillings: 1, money: 90 },
    thrownAway: { litres: 20, money: 1 },
  };
  test("says until when, and at what risk", () => {
    const words = worthWords({ ...worth, runsUntil: { litres: 900, days: 9, risk: 0.07 } }, "EUR", "metric");
    expect(words).toMatch(
      /^3,000 to 5,000 L from now, about 40 days; the lead lasts about 900 L more, about 9 days, then €90/,
    );
    expect(words).toMatch(/reaches its mark before that in 7 of 100 futures\.$/);
    expect(worthWords({ ...worth, runsUntil: { litres: 900, risk: 0.001 } }, "EUR", "metric")).toMatch(
      /hardly ever\.$/,
    );
    expect(actWords("run-lead", ["A", "B"])).toBe("Run A to near exhaustion, then refill it; B guards");
  });
});
