import { VOID_FRACTION } from "../bed/bed";
import { given, planningAssumption, type Explanation } from "../explain/explanation";
import { CONDUCTIVITY_PER_LOAD, visibleLoad } from "../water/water";
import { DRAINED_RESIN_WEIGHT, TWO_PERSON_WEIGHT } from "../vessel/weight";
import type { Vessel } from "../vessel/vessel.record";
import type { AmountName } from "./step";
import type { Ways } from "./ways";

/** Height of the inside, mm, as that of a straight cylinder. @example insideHeight({ grossVolume: 14, diameter: 180 }) // 550 */
export const insideHeight = ({ grossVolume, diameter }: Pick<Vessel, "grossVolume" | "diameter">): number =>
  grossVolume / ((Math.PI / 4) * diameter ** 2 * 1e-6);

export interface AmountsInput {
  readonly vessel: Pick<Vessel, "grossVolume" | "diameter" | "emptyWeight">;
  readonly ways: Pick<Ways, "fillTo" | "scoop">;
  /** L of resin in it now; none where it is empty. */
  readonly inIt?: number;
  /** L to put in, where it is not the usual fill: of a top-up the gap. */
  readonly toFill?: number;
}

/** kg above which a wet vessel is drawn as heavy, and a hand is told how to lift it: a planning assumption. */
export const HEAVY_FROM = 8;

/** A figure that a step needs at hand, with its working. */
export interface Amount {
  readonly value: number;
  readonly explanation: Explanation;
  /** Of a weight: one pair of hands is not enough. */
  readonly twoPeople?: boolean;
}

const definition = { school: "arithmetic of a refill", source: "definition" } as const;
const entered = "what you entered";

function weights({ vessel, ways, inIt, toFill }: AmountsInput) {
  const G = vessel.grossVolume;
  const resin = Math.min(G, inIt ?? toFill ?? ways.fillTo * G);
  const empty = vessel.emptyWeight ?? 0;
  const E = given("E", "Empty vessel", empty, "kg", vessel.emptyWeight === undefined ? "not known: left out" : entered);
  const r = planningAssumption("r", "Drained resin", DRAINED_RESIN_WEIGHT, "kg/L");
  const v = planningAssumption("v", "Water in the voids", VOID_FRACTION, "kg/L");
  const V = given("V", "Resin in it", resin, "L", inIt === undefined ? "the fill" : "the charge in use");
  const of = (name: string, value: number, formula: string, words: string, inputs: Explanation["inputs"]): Amount => ({
    value,
    twoPeople: value > TWO_PERSON_WEIGHT,
    explanation: { name, value, unit: "kg", formula, words, inputs, ...definition, school: "weighing" },
  });
  return {
    "wet-weight": of(
      "Weight, wet",
      empty + (DRAINED_RESIN_WEIGHT + VOID_FRACTION) * resin + (G - resin),
      "E + (r + v) × V + (G − V)",
      "the empty vessel, the drained resin with the water in its voids, and the water above it",
      [E, r, v, V, given("G", "Vessel inside", G, "L", entered)],
    ),
    "drained-weight": of(
      "Weight, drained",
      empty + DRAINED_RESIN_WEIGHT * resin,
      "E + r × V",
      "the empty vessel and the drained resin",
      [E, r, V],
    ),
    "spent-weight": of("Spent beads, drained", DRAINED_RESIN_WEIGHT * resin, "r × V", "the drained resin alone", [
      r,
      V,
    ]),
  };
}

/**
 * What hands need to know at a refill: litres and scoops for the fill, pure water, weights to lift, each with its working.
 *
 * @returns litres, kilograms, scoops; `depth-of-fill` in mm below the rim
 * @example refillAmounts({ vessel: { grossVolume: 14, diameter: 180, emptyWeight: 6 }, ways: { fillTo: 0.85, scoop: 0.8 }, inIt: 11.9 })
 *   // litres 11.9, scoops 15, wetting-water 4.5, wet-weight 20.95, depth-of-fill 82.5
 */
export function refillAmounts(input: AmountsInput): Readonly<Partial<Record<AmountName, Amount>>> {
  const { vessel, ways, toFill } = input;
  const G = vessel.grossVolume;
  const litres = toFill ?? ways.fillTo * G;
  const level = (input.inIt !== undefined && toFill !== undefined ? input.inIt : 0) + litres;
  const f = given("f", "Filled to, as a share", ways.fillTo, "", "the fill mark");
  const gross = given("G", "Vessel inside", G, "L", entered);
  const height = insideHeight(vessel);
  const voids = planningAssumption("v", "Share of voids", VOID_FRACTION, "");
  const ofFill = given("V", "Beads put in", litres, "L", "the fill");
  const amount = (
    name: string,
    unit: string,
    value: number,
    formula: string,
    words: string,
    inputs: Explanation["inputs"],
  ): Amount => ({
    value,
    explanation: { name, value, unit, formula, words, inputs, ...definition },
  });
  return {
    ...weights(input),
    litres:
      toFill === undefined
        ? amount("Beads to put in", "L", litres, "f × G", "the share of the inside that is filled", [f, gross])
        : amount("Beads to put in", "L", litres, "V", "what is missing up to the mark", [ofFill]),
    scoops: amount("Scoops", "", litres / ways.scoop, "V / s", "the fill, by the scoop", [
      ofFill,
      planningAssumption("s", "A scoop", ways.scoop, "L"),
    ]),
    "wetting-water": amount(
      "Pure water for wetting",
      "L",
      VOID_FRACTION * litres,
      "v × V",
      "as much as stands between the beads",
      [voids, ofFill],
    ),
    "floating-water": amount(
      "Pure water for floating",
      "L",
      Math.max(0, G - level),
      "G − V",
      "the room above the beads, up to the rim, once they are wet",
      [gross, given("V", "Beads in it", level, "L", "the fill")],
    ),
    "depth-of-fill": amount(
      "From the rim to the mark",
      "mm",
      height * (1 - ways.fillTo),
      "H × (1 − f)",
      "what stays free above the beads, as in a straight cylinder",
      [given("H", "Height inside", height, "mm", "volume and inner diameter"), f],
    ),
  };
}

/**
 * Resin that is thrown away by changing early: the share of its water that the charge could still give, at its price.
 *
 * @param left L @param treated L @param resin L @param price money for a litre of resin
 * @example earlyWaste({ left: 500, treated: 1500, resin: 12, price: 8, currency: "EUR" }).value // 24
 */
export function earlyWaste({
  left,
  treated,
  resin,
  price,
  currency,
}: {
  readonly left: number;
  readonly treated: number;
  readonly resin: number;
  readonly price: number;
  readonly currency: string;
}): Explanation {
  return {
    name: "Resin thrown away",
    value: resin * price * (left / (left + treated)),
    unit: currency,
    formula: "V × p × l / (l + t)",
    words: "the share of its water that it could still give, of what the resin costs",
    inputs: [
      given("V", "Resin in it", resin, "L", "the charge in use"),
      given("p", "A litre of resin", price, `${currency}/L`, "the prices"),
      given("l", "Litres left, the middle", left, "L", "the rack"),
      given("t", "Litres treated", treated, "L", "the log"),
    ],
    ...definition,
  };
}

/**
 * Litres that a new charge should give until the limit, at this rig's feed and as this crew's charges have held.
 *
 * @param resin L @param capacity eq/L @param throughput load at the limit as a share of capacity @param feed µS/cm
 * @param worth share of fresh resin
 * @example expectedLitres({ resin: 10, capacity: 0.5, throughput: 0.9, feed: 300, worth: 1 }).value // 1500
 */
export function expectedLitres({
  resin,
  capacity,
  throughput,
  feed,
  worth,
}: {
  readonly resin: number;
  readonly capacity: number;
  readonly throughput: number;
  readonly feed: number;
  readonly worth: number;
}): Explanation {
  return {
    name: "What it should give",
    value: (1000 * resin * capacity * throughput * worth) / visibleLoad(feed),
    unit: "L",
    formula: "m × V × q × T × s / (f / c)",
    words: "what the resin holds, up to the limit, by the load of each litre",
    inputs: [
      given("m", "Milliequivalents of an equivalent", 1000, "meq/eq", "exact by definition"),
      given("V", "Resin put in", resin, "L", "the refill"),
      given("q", "What your charges hold", capacity, "eq/L", "your ended charges, else the grade"),
      given("T", "Load at the limit, as a share", throughput, "", "the rack"),
      given("s", "Worth beside fresh resin", worth, "", "how the bags were kept"),
      given("f", "Feed", feed, "µS/cm", "your readings, else the tap"),
      given(
        "c",
        "Conductivity of a milliequivalent",
        CONDUCTIVITY_PER_LOAD,
        "µS/cm per meq/L",
        "Standard Methods 1030 E",
      ),
    ],
    school: "own history",
    source: "Standard Methods 1030 E",
  };
}

/**
 * Share of fresh beads that tap water spends which is poured in to wet them: its load in their voids beside what they hold.
 *
 * @param feed µS/cm @param capacity eq/L
 * @example wettingLoss(320, 0.56) // 0.00217
 */
export const wettingLoss = (feed: number, capacity: number): number =>
  (VOID_FRACTION * visibleLoad(feed)) / (1000 * capacity);
