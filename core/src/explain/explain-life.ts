import type { Explanation, ExplanationInput } from "./explanation";
import { lifeFigures, workOutLife, type LifeInput, type LifeWorking } from "../life/life";
import { throughputAt } from "../life/breakthrough";
import { litresByConstant, litresByRating } from "../life/schools";
import { succeed, type Result } from "../result";
import { describeCapacity, type Batch, type Capacity, type Grade } from "../resin/capacity";
import { LITRES_PER_CUBIC_FOOT, LITRES_PER_US_GALLON } from "../units/constants";
import { CO2_MG_PER_MMOL, SILICA_MG_PER_MMOL } from "../water/carbon-dioxide";
import { scaleFactor } from "../water/meter";

const CONSTANT_PATTERN = "Hall, Eagleton, Acrivos and Vermeulen 1966";
const STANDARD_METHODS = "Standard Methods 1030 E";
export const CHEMISTRY_SCHOOL = "resin chemistry with kinetics and your limit";

const typed = "what you entered";
const assumed = "planning assumption";

function explainCationLoad({ water }: LifeWorking, input: LifeInput): Explanation {
  const base = {
    name: "Cation load",
    value: water.cationLoad,
    unit: "meq/L",
    school: CHEMISTRY_SCHOOL,
    source: STANDARD_METHODS,
  };
  if (input.water.analysis) {
    return {
      ...base,
      formula: "Sc",
      words: "sum of the analysed cations, each divided by its equivalent weight",
      inputs: [
        {
          symbol: "Sc",
          name: "Cations of the analysis",
          value: water.cationLoad,
          unit: "meq/L",
          from: "your water report",
        },
      ],
    };
  }
  return {
    ...base,
    formula: "EC / 100",
    words: "conductivity at 25 °C divided by 100, good to about 10 %",
    inputs: [conductivityInput(water.ec25, input)],
  };
}

function conductivityInput(ec25: number, input: LifeInput): ExplanationInput {
  const base = { symbol: "EC", name: "Feed conductivity at 25 °C", value: ec25, unit: "µS/cm" };
  const { reading } = input.water;
  if (!reading) return { ...base, from: "the ions of your water report" };
  if (reading.compensated === false) return { ...base, from: "your reading, brought to 25 °C" };
  return {
    ...base,
    from: "your reading",
    because: {
      name: base.name,
      value: ec25,
      unit: "µS/cm",
      formula: "R / s",
      words: "meter reading divided by what its scale shows per µS/cm",
      school: CHEMISTRY_SCHOOL,
      source: "Standard Methods 2510",
      inputs: [
        {
          symbol: "R",
          name: "Feed reading",
          value: reading.value,
          unit: reading.scale === "ec" ? "µS/cm" : "ppm",
          from: typed,
        },
        {
          symbol: "s",
          name: "Scale of the meter",
          value: scaleFactor(reading.scale),
          unit: "per µS/cm",
          from: "the meter's scale",
        },
      ],
    },
  };
}

function explainAnionLoad(working: LifeWorking, input: LifeInput): Explanation {
  const { water } = working;
  const co2 = water.co2 / CO2_MG_PER_MMOL;
  const silica = (input.water.silica ?? 0) / SILICA_MG_PER_MMOL;
  const ions = water.anionLoad - co2 - silica;
  return {
    name: "Anion load",
    value: water.anionLoad,
    unit: "meq/L",
    formula: "A + C + S",
    school: CHEMISTRY_SCHOOL,
    source: STANDARD_METHODS,
    words: "the anions a meter sees, plus carbon dioxide and silica, which no meter sees",
    inputs: [
      {
        symbol: "A",
        name: "Anions the meter sees",
        value: ions,
        unit: "meq/L",
        from: input.water.analysis ? "your water report" : "conductivity / 100",
      },
      {
        symbol: "C",
        name: `Carbon dioxide, ${water.co2.toPrecision(3)} mg/L`,
        value: co2,
        unit: "meq/L",
        from: co2 > 0 ? "pH and alkalinity, or as entered" : "not entered: taken as none",
        assumption: co2 === 0,
      },
      {
        symbol: "S",
        name: "Silica",
        value: silica,
        unit: "meq/L",
        from: silica > 0 ? typed : "not entered: taken as none",
        assumption: silica === 0,
      },
    ],
  };
}

function explainTransferUnits(working: LifeWorking): Explanation {
  const { contactSeconds, transferUnits } = working.bed;
  return {
    name: "Transfer units",
    value: transferUnits,
    unit: "",
    formula: "k × t",
    school: CHEMISTRY_SCHOOL,
    source: "Wilson and Geankoplis 1966",
    words: "how fast ions cross the water film around the beads, times the contact time",
    inputs: [
      {
        symbol: "k",
        name: "Film transfer rate over the beads' surface",
        value: transferUnits / contactSeconds,
        unit: "per s",
        from: "flow, temperature, bead size 0.65 mm, kinetic health",
        assumption: true,
      },
      { symbol: "t", name: "Contact time", value: contactSeconds, unit: "s", from: "resin volume / flow" },
    ],
  };
}

function explainThroughput(working: LifeWorking, throughput: number): Explanation {
  const { transferUnits } = working.bed;
  const base = {
    name: "Throughput at the limit",
    value: throughput,
    unit: "",
    school: CHEMISTRY_SCHOOL,
    source: CONSTANT_PATTERN,
  };
  if (working.limitShare >= 1 || throughput === 0) {
    const formula = throughput === 0 ? "0 × N" : "1 + 1 / N";
    const words =
      throughput === 0
        ? "the limit is out of reach from the first litre"
        : "the feed already meets the limit: until every bead is taken";
    return { ...base, formula, words, inputs: [transferUnitsInput(working)] };
  }
  const even = throughputAt(working.limitShare, transferUnits, 0);
  const evenValue = even.ok ? even.value : throughput;
  return {
    ...base,
    formula: "1 + (1 + ln(X)) / N − w",
    words: "share of the capacity put to use when the output reaches the limit: a short or fast bed wastes more of it",
    inputs: [
      {
        symbol: "X",
        name: "Limit as a share of the feed",
        value: working.limitShare,
        unit: "",
        from: working.bypass > 0 ? "limit and feed, the bypass taken off" : "limit / feed",
      },
      transferUnitsInput(working),
      {
        symbol: "w",
        name: `Lost to uneven flow, spread ${working.spread}`,
        value: evenValue - throughput,
        unit: "",
        from: assumed,
        assumption: true,
      },
    ],
  };
}

const transferUnitsInput = (working: LifeWorking): ExplanationInput => ({
  symbol: "N",
  name: "Transfer units of the bed",
  value: working.bed.transferUnits,
  unit: "",
  from: "contact time and film transfer",
  because: explainTransferUnits(working),
});

/** A grade in words, with the batch where it is not the usual one. */
const gradeWords = ({ grade, batch = "usual" }: { readonly grade: Grade; readonly batch?: Batch }) =>
  grade === "regenerated" && batch !== "usual" ? `${batch} batch of ${grade} resin` : `${grade} resin`;

function lifeInputs(working: LifeWorking, input: LifeInput, throughput: number): ExplanationInput[] {
  const stated = "grade" in input.capacity ? `${gradeWords(input.capacity)}, ${assumed}` : typed;
  const isAssumed = "grade" in input.capacity;
  const inputs: ExplanationInput[] = [
    { symbol: "V", name: "Resin in the vessel", value: input.bed.volume, unit: "L", from: typed },
    {
      symbol: "T",
      name: "Throughput at the limit",
      value: throughput,
      unit: "",
      from: "the front and your limit",
      because: explainThroughput(working, throughput),
    },
    {
      symbol: "qc",
      name: "Cation capacity",
      value: working.sides.cation,
      unit: "eq/L",
      from: stated,
      assumption: isAssumed,
    },
    {
      symbol: "Lc",
      name: "Cation load",
      value: working.water.cationLoad,
      unit: "meq/L",
      from: "the feed",
      because: explainCationLoad(working, input),
    },
    {
      symbol: "qa",
      name: "Anion capacity",
      value: working.sides.anion,
      unit: "eq/L",
      from: stated,
      assumption: isAssumed,
    },
    {
      symbol: "La",
      name: "Anion load",
      value: working.water.anionLoad,
      unit: "meq/L",
      from: "the feed, carbon dioxide and silica",
      because: explainAnionLoad(working, input),
    },
    { symbol: "a", name: "Left after storage", value: working.storage, unit: "", from: assumed, assumption: true },
    { symbol: "p", name: "Packing", value: working.packing, unit: "", from: assumed, assumption: true },
  ];
  if (working.bypass > 0)
    inputs.push({ symbol: "b", name: "Bypass share", value: working.bypass, unit: "", from: typed });
  return inputs;
}

/**
 * How a life by resin chemistry came about. Evaluating the formula with the inputs gives the litres of `life`.
 *
 * @example explainLife(input) // formula "1000 × V × T × min(qc / Lc, qa / La) × a × p"
 */
export function explainLife(input: LifeInput): Result<Explanation> {
  const working = workOutLife(input);
  if (!working.ok) return working;
  const figures = lifeFigures(working.value);
  if (!figures.ok) return figures;
  const { litres, throughput, limitingSide, reason } = figures.value;
  const formula = "1000 × V × T × min(qc / Lc, qa / La) × a × p";
  return succeed({
    name: "Life until the limit",
    value: litres,
    unit: "L",
    formula: working.value.bypass > 0 ? `${formula} / (1 − b)` : formula,
    words:
      reason ?? `what the ${limitingSide} beads hold, divided by what each litre brings, as far as the limit allows`,
    inputs: lifeInputs(working.value, input, throughput),
    school: CHEMISTRY_SCHOOL,
    source: CONSTANT_PATTERN,
  });
}

/** How a life by the bare trade constant came about. */
export function explainConstantLife(constant: number, ppmNacl: number, resinLitres: number): Explanation {
  return {
    name: "Life by the trade constant",
    value: litresByConstant(constant, ppmNacl, resinLitres),
    unit: "L",
    formula: "K / ppm × V / c × g",
    words: "trade constant divided by ppm, times volume: no flow, no limit, no carbon dioxide",
    inputs: [
      {
        symbol: "K",
        name: "Trade constant",
        value: constant,
        unit: "US gal·ppm per ft³ (NaCl)",
        from: assumed,
        assumption: true,
      },
      { symbol: "ppm", name: "Feed", value: ppmNacl, unit: "ppm NaCl", from: typed },
      { symbol: "V", name: "Resin in the vessel", value: resinLitres, unit: "L", from: typed },
      {
        symbol: "c",
        name: "Litres in a cubic foot",
        value: LITRES_PER_CUBIC_FOOT,
        unit: "L/ft³",
        from: "exact by definition",
      },
      {
        symbol: "g",
        name: "Litres in a US gallon",
        value: LITRES_PER_US_GALLON,
        unit: "L/US gal",
        from: "exact by definition",
      },
    ],
    school: "one trade constant",
    source: "trade practice",
  };
}

/** How a life by a maker's rating came about. */
export function explainRatedLife(
  rating: Extract<Capacity, { ratedLitres: number }>,
  ec25: number,
  resinLitres: number,
): Result<Explanation> {
  const capacity = describeCapacity(rating);
  if (!capacity.ok) return capacity;
  return succeed({
    name: "Life by the maker's rating",
    value: litresByRating(capacity.value.cation, ec25, resinLitres),
    unit: "L",
    formula: "Vr × (R / s) / EC × V / B",
    words: "rated litres, scaled to your feed and to your resin: no flow, no limit, no carbon dioxide",
    inputs: [
      {
        symbol: "Vr",
        name: "Rated volume",
        value: rating.ratedLitres,
        unit: "L",
        from: "the rating as entered",
        assumption: true,
      },
      {
        symbol: "R",
        name: "Feed of the rating",
        value: rating.ratedPpm,
        unit: "ppm",
        from: "the rating as entered",
        assumption: true,
      },
      {
        symbol: "s",
        name: "Scale of the rating",
        value: scaleFactor(rating.scale),
        unit: "per µS/cm",
        from: "the rating as entered",
      },
      { symbol: "EC", name: "Feed conductivity at 25 °C", value: ec25, unit: "µS/cm", from: typed },
      { symbol: "V", name: "Resin in the vessel", value: resinLitres, unit: "L", from: typed },
      {
        symbol: "B",
        name: "Resin of the rating",
        value: rating.resinLitres,
        unit: "L",
        from: "the rating as entered",
        assumption: true,
      },
    ],
    school: "the maker's rating, scaled",
    source: "trade practice",
  });
}
