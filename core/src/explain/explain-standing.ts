import type { CapacityRange } from "../ledger/own-capacity";
import type { Standing } from "../run/standing";
import { headlineOf, type SpokenOf } from "../run/verdict-words";
import { given, planningAssumption, type Explanation, type ExplanationStep } from "./explanation";

const WATER_WORDS = { metered: "metered", timed: "timed", guessed: "counted in jobs" } as const;

/** How the load is known. */
const waterWords = ({ used, unlogged }: Standing, errs: number | string) =>
  [
    used.litres > 0
      ? `your log, water ${WATER_WORDS[used.quality]}, give or take ${errs} %`
      : "your log: no water in it yet",
    ...(unlogged.length > 0 ? ["more than this where nobody typed it"] : []),
  ].join("; ");

const range = ({ low, high }: CapacityRange) => `${low.toFixed(2)} to ${high.toFixed(2)}`;
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const counted = (count: number, one: string, more: string) =>
  count === 0 ? `no ${more}` : count === 1 ? `1 ${one}` : `${count} ${more}`;

/** How the belief moved from the grade to this charge, and what each stage leaves. */
function stepsOf(where: Standing): ExplanationStep[] {
  const { gradeCapacity, ownCapacity, taught, groups, capacity, leftByCount, left, leftTo } = where;
  const charges = counted(taught, "ended charge", "ended charges");
  const readings = counted(groups.length, "reading", "readings");
  return [
    { words: `The grade: new resin of its smaller side`, value: gradeCapacity, unit: "eq/L" },
    { words: `Your resin after ${charges} (${range(ownCapacity)})`, value: ownCapacity.median, unit: "eq/L" },
    { words: "By the count alone, to your limit", value: leftByCount.typical, unit: "L" },
    { words: `This charge after its ${readings} (${range(capacity)})`, value: capacity.median, unit: "eq/L" },
    ...(left
      ? [
          {
            words: leftTo === "hard" ? "With its readings, to your stop point" : "With its readings",
            value: left.typical,
            unit: "L",
          },
        ]
      : []),
  ];
}

/** What stands before a bed still holds back: one more input, and one more term. */
function heldAhead(meq: number | undefined) {
  if (meq === undefined) return { term: "", words: "", inputs: [], meq: 0 };
  const name = "What the beds before it will still hold back";
  return {
    term: " + h",
    words: ", with what those before it will still hold back",
    inputs: [given("h", name, meq, "meq", "each as it is believed, all run forward at the feed to come")],
    meq,
  };
}

/**
 * How the litres left of a charge came about: the median of a distribution, with its real ingredients.
 * @returns nothing where no litres are shown
 */
export function explainLeft(where: Standing): Explanation | undefined {
  const { capacity, charge, condition, used, feed, left, leftTo, markThroughput, sinceLog, taught, groups } = where;
  if (!left) return undefined;
  if (where.isByTrend) return explainRise(where);
  const mark = leftTo === "limit" ? "your limit" : "your stop point";
  const held = 1000 * capacity.median * charge.resinLitres * condition * markThroughput;
  const shares = { feed: (100 * feed.sd).toFixed(0), used: (100 * used.sd).toFixed(0) };
  const behind = where.passage < 1 ? " behind the membrane" : "";
  const ahead = heldAhead(where.aheadHolds?.toMark);
  return {
    name: `Litres left to ${mark}`,
    value: left.typical,
    unit: "L",
    formula: `max(0, (1000 × q × V × k × T − m${ahead.term}) × 100 / f − u)`,
    words: `what this charge should hold up to ${mark}, less what was put on it${ahead.words}, divided by what each litre brings, less what may have gone since the last log: the middle of all that is believed`,
    inputs: [
      given(
        "q",
        `${where.usedBefore ? "What this charge still held when it was taken over" : "Capacity of this charge"}, ${range(capacity)}`,
        capacity.median,
        "eq/L",
        `${where.usedBefore ? `about ${where.usedBefore.litres.toPrecision(2)} L before, a guess; ` : ""}grade, ${counted(taught, "ended charge", "ended charges")}, ${counted(groups.length, "reading", "readings")}`,
      ),
      given("V", "Resin in the vessel", charge.resinLitres, "L", "this charge"),
      planningAssumption("k", "Left after storage and packing", condition, ""),
      given("T", `Throughput at ${mark}`, markThroughput, "", "the front, its width, its bypass and your mark"),
      given(
        "m",
        `Load put on by ${Number(used.litres.toPrecision(3))} L so far`,
        used.meq,
        "meq",
        waterWords(where, shares.used),
      ),
      ...ahead.inputs,
      given(
        "f",
        `Feed to come${behind}, give or take ${shares.feed} %`,
        feed.typical,
        "µS/cm",
        feed.isRead ? "your readings of the last thirty days" : "the tap's record: nobody read it within thirty days",
      ),
      given("u", "May have gone since the last log", sinceLog.litres, "L", `${sinceLog.days} days at your usual water`),
    ],
    median: {
      middleOfEach: Math.max(0, ((held - used.meq + ahead.meq) * 100) / feed.typical - sinceLog.litres),
      steps: stepsOf(where),
    },
    school: "resin chemistry, corrected by your own history and readings",
    source: "Hall, Eagleton, Acrivos and Vermeulen 1966; Jaynes 2003 for the weighing of readings",
  };
}

/** How the litres to a mark came about where the readings' own trend speaks. */
function explainRise({ rise, left, leftTo, sinceLog }: Standing): Explanation | undefined {
  if (!rise || !left) return undefined;
  const { litres, markEc25, feedEc25, since } = rise;
  const { share, factorPerMeq, amountPerMeq } = rise.rise;
  const mark = leftTo === "limit" ? "your limit" : "your stop point";
  const ends = [
    given("h", capital(mark), markEc25, "µS/cm", "this vessel"),
    given("f", "Feed to come", feedEc25, "µS/cm", "your readings, else the tap's record"),
    given("e", "Output now, as a share of its feed", share, "", "your last reading"),
  ];
  const school = "the readings' own trend";
  const source = "Legendre 1805, least squares";
  return {
    name: `Litres left to ${mark}, as the output rises`,
    value: left.typical,
    unit: "L",
    formula: "max(0, (a × b) ^ 0.5 − s − u)",
    words:
      "between a rise by the same factor and one by the same amount, as your last four readings rose, less what went through since",
    inputs: [
      given("a", "Should it go on by the same factor", litres.low, "L", "its own working", {
        name: "Litres from the last reading, by the same factor",
        value: litres.low,
        unit: "L",
        formula: "max(0, ln(h / (e × f)) / r) × 100 / f",
        words: "how often the output has still to grow, divided by how it grows with each meq, in litres",
        inputs: [...ends, given("r", "Growth of its logarithm", factorPerMeq, "1/meq", "your last four readings")],
        school,
        source,
      }),
      given("b", "Should it go on by the same amount", litres.high, "L", "its own working", {
        name: "Litres from the last reading, by the same amount",
        value: litres.high,
        unit: "L",
        formula: "max(0, h / f − e) / g × 100 / f",
        words: "what the output has still to rise, divided by what it rises with each meq, in litres",
        inputs: [...ends, given("g", "Growth of that share", amountPerMeq, "1/meq", "your last four readings")],
        school,
        source,
      }),
      given("s", "Treated since that reading", since, "L", "your log"),
      given("u", "May have gone since the last log", sinceLog.litres, "L", `${sinceLog.days} days at your usual water`),
    ],
    school,
    source,
  };
}

/** The working of the litres that stand for a rig, large or as what an odd reading would leave; nothing where none do. */
export function explainHeadline(where: Standing, facts: SpokenOf): Explanation | undefined {
  const headline = headlineOf(where, facts);
  const litres = headline?.litres ?? headline?.ifWrong;
  return litres && (litres === where.leak ? explainLeak(where) : explainLeft(where));
}

/**
 * How the litres until anything leaks came about.
 * @returns nothing where the composition is unknown
 */
export function explainLeak(where: Standing): Explanation | undefined {
  const { leak, capacity, charge, condition, limitThroughput, used, feed, sinceLog } = where;
  if (!leak) return undefined;
  const held = 1000 * capacity.median * charge.resinLitres * condition * limitThroughput * leak.share;
  const ahead = heldAhead(where.aheadHolds?.toLeak);
  return {
    name: "Litres until anything leaks",
    value: leak.typical,
    unit: "L",
    formula: `max(0, (1000 × q × V × k × T × s − m${ahead.term}) × 100 / f − u)`,
    words:
      "the charge's load at the limit, shortened to where the first ion gives way, less what was put on it" +
      ahead.words,
    inputs: [
      given("q", `Capacity of this charge, ${range(capacity)}`, capacity.median, "eq/L", "as for the litres left"),
      given("V", "Resin in the vessel", charge.resinLitres, "L", "this charge"),
      planningAssumption("k", "Left after storage and packing", condition, ""),
      given("T", "Throughput at your limit", limitThroughput, "", "the column of this water, and your limit"),
      given(
        "s",
        "First leak, as a share of the load at the limit",
        leak.share,
        "",
        "the column of this water, ion by ion",
      ),
      given("m", "Load put on so far", used.meq, "meq", "your log"),
      ...ahead.inputs,
      given("f", "Feed to come", feed.typical, "µS/cm", feed.isRead ? "your readings" : "the tap's record"),
      given("u", "May have gone since the last log", sinceLog.litres, "L", "your usual water"),
    ],
    median: {
      middleOfEach: Math.max(0, ((held - used.meq + ahead.meq) * 100) / feed.typical - sinceLog.litres),
      steps: [],
    },
    school: "resin chemistry, corrected by your own history",
    source: "Helfferich 1962; Standard Methods 1030 E",
  };
}
