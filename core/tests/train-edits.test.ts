import fc from "fast-check";
import { hungIn, moved, rotated, takenOut, toTheEnd, usualPlace, type Place } from "../src/index";

const vessels = ["a", "b", "c", "d", "e"] as const;
/** A train of some places, each with its own vessel or none. */
const train = fc
  .tuple(fc.shuffledSubarray([...vessels]), fc.array(fc.boolean(), { minLength: 1, maxLength: 5 }))
  .map(([order, full]): readonly Place[] =>
    full.map((is, i) => ({ stageId: `s${i}`, ...(is && order[i] ? { vesselId: order[i] } : {}) })),
  );
const stagesOf = (places: readonly Place[]) => places.map(({ stageId }) => stageId);
const standing = (places: readonly Place[]) => places.flatMap(({ vesselId }) => (vesselId ? [vesselId] : []));

const deeds = fc.oneof(
  fc.constant((places: readonly Place[]) => rotated(places)),
  fc.constantFrom(...vessels).map((id) => (places: readonly Place[]) => takenOut(places, id)),
  fc.tuple(fc.constantFrom(...vessels), fc.constantFrom(...vessels)).map(
    ([id, fresh]) =>
      (places: readonly Place[]) =>
        toTheEnd(places, id, fresh),
  ),
  fc.tuple(fc.nat(4), fc.constantFrom(...vessels)).map(
    ([i, id]) =>
      (places: readonly Place[]) =>
        hungIn(places, `s${i}`, id),
  ),
);

describe("whatever is done to a train", () => {
  test("no stage is lost or moved, and no vessel stands twice", () =>
    fc.assert(
      fc.property(train, fc.array(deeds, { maxLength: 12 }), (before, done) => {
        const after = done.reduce((places, deed) => deed(places), before);
        expect(stagesOf(after)).toEqual(stagesOf(before));
        expect(new Set(standing(after)).size).toBe(standing(after).length);
      }),
    ));
  test("a rotation keeps all who stand there; as many as there are bring them back", () =>
    fc.assert(
      fc.property(train, (before) => {
        expect([...standing(rotated(before))].sort()).toEqual([...standing(before)].sort());
        const around = standing(before).reduce<readonly Place[]>((places) => rotated(places), before);
        expect(standing(around)).toEqual(standing(before));
      }),
    ));
  test("what goes to the end stands last, those behind it one place forward", () => {
    const three = ["a", "b", "c"].map((vesselId, i) => ({ stageId: `s${i}`, vesselId }));
    expect(standing(toTheEnd(three, "a"))).toEqual(["b", "c", "a"]);
    expect(standing(toTheEnd(three, "b"))).toEqual(["a", "c", "b"]);
    expect(standing(toTheEnd(three, "a", "d"))).toEqual(["b", "c", "d"]);
    expect(toTheEnd(three, "z")).toBe(three);
  });
});

describe("a list of stages", () => {
  test("moved about keeps every stage", () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(), { maxLength: 8 }),
        fc.integer({ min: -2, max: 9 }),
        fc.nat(9),
        (list, from, to) => {
          expect([...moved(list, from, to)].sort()).toEqual([...list].sort());
        },
      ),
    ));
  test("takes a new one where the water should meet it", () => {
    const kinds = (...of: ("sediment" | "carbon" | "membrane" | "degasser" | "resin")[]) =>
      of.map((kind) => ({ kind }));
    expect(usualPlace(kinds("resin"), "sediment")).toBe(0);
    expect(usualPlace(kinds("sediment", "membrane", "resin"), "carbon")).toBe(1);
    expect(usualPlace(kinds("sediment", "resin"), "resin")).toBe(2);
    // In a train of an order of its own it stands behind the last that it should follow.
    expect(usualPlace(kinds("resin", "sediment"), "carbon")).toBe(2);
  });
});
