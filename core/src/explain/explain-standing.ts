import type { Explanation } from "./explanation";
import { leakLeft, type UnseenLoad } from "../run/leak-left";
import type { Standing } from "../run/standing";
import { visibleLoad } from "../water/water";

/** How the litres left of a charge came about: the middle of the belief, at the feed of now. */
export function explainLeft(where: Standing): Explanation {
  const { capacity, charge, condition, used, feed, left, leftTo } = where;
  const mark = leftTo === "limit" ? "your limit" : "your hard mark";
  const held = where.meqLeft.median + used.meq;
  const throughput = held / (capacity.median * 1000 * charge.resinLitres * condition);
  const load = where.meqLeft.median / Math.max(left.typical, 1e-9);
  return {
    name: `Litres left to ${mark}`,
    value: left.typical,
    unit: "L",
    formula: "(1000 × q × V × k × T − U) / L",
    words: `what this charge should hold up to ${mark}, less what was put on it, divided by what each litre brings`,
    inputs: [
      {
        symbol: "q",
        name: `Capacity, ${capacity.low.toPrecision(2)} to ${capacity.high.toPrecision(2)}`,
        value: capacity.median,
        unit: "eq/L",
        from: "grade, past charges and this charge's readings",
        assumption: true,
      },
      { symbol: "V", name: "Resin in the vessel", value: charge.resinLitres, unit: "L", from: "this charge" },
      {
        symbol: "k",
        name: "Left after storage, packing and standing",
        value: condition,
        unit: "",
        from: "planning assumption",
        assumption: true,
      },
      {
        symbol: "T",
        name: `Throughput at ${mark}`,
        value: throughput,
        unit: "",
        from: "the front, its width and your mark",
      },
      {
        symbol: "U",
        name: `Load used by ${used.litres.toPrecision(3)} L`,
        value: used.meq,
        unit: "meq",
        from: `your log, ${used.quality} water, give or take ${(100 * used.sd).toFixed(0)} %`,
      },
      {
        symbol: "L",
        name: `Load of the feed, ${feed.typical.toPrecision(3)} µS/cm`,
        value: load,
        unit: "meq/L",
        from: "mean of the last three weeks of water",
      },
    ],
    school: "resin chemistry, corrected by your own history and readings",
    source: "Hall, Eagleton, Acrivos and Vermeulen 1966; Jaynes 2003 for the weighing of readings",
  };
}

/** How the litres until anything leaks came about. */
export function explainLeakLeft(standing: Standing, unseen: UnseenLoad): Explanation {
  const treated = standing.used.litres;
  const visible = visibleLoad(standing.feed.typical);
  return {
    name: "Litres until anything leaks",
    value: leakLeft(standing, unseen).typical,
    unit: "L",
    formula: "max(0, (t + l) × v / (v + c + s) − t)",
    words:
      "the meter's whole life, shortened by the beads that carbon dioxide and silica take, less what has gone through",
    inputs: [
      { symbol: "t", name: "Treated so far", value: treated, unit: "L", from: "your log" },
      {
        symbol: "l",
        name: "Litres until the meter shows it",
        value: standing.left.typical,
        unit: "L",
        from: "your log",
      },
      { symbol: "v", name: "Load that a meter shows", value: visible, unit: "meq/L", from: "feed at the resin" },
      { symbol: "c", name: "Carbon dioxide", value: unseen.co2, unit: "meq/L", from: "pH and alkalinity of the tap" },
      { symbol: "s", name: "Silica at the resin", value: unseen.silica, unit: "meq/L", from: "the tap's report" },
    ],
    school: "resin chemistry, corrected by your own history",
    source: "Standard Methods 1030 E; Helfferich 1962",
  };
}
