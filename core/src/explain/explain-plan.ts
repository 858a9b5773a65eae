import { given, planningAssumption, type Explanation, type ExplanationInput } from "./explanation";
import { explainBed } from "./explain-bed";
import { CHEMISTRY_SCHOOL, explainLife } from "./explain-life";
import { explainWeight } from "./explain-weight";
import { spentThroughput } from "../life/breakthrough";
import { WATER_UNCERTAINTY, type WaterQuality } from "../ledger/water-used";
import { lifeFigures, workOutLife, type LifeWorking } from "../life/life";
import { NORMAL_90 } from "../numerics/quantile";
import { behind, type BehindBefore } from "../plan/before";
import {
  flushOf,
  minutesAhead,
  guardFill,
  membranesIn,
  pumpHours,
  purchaseOf,
  resinPrice,
  secondMembranePrice,
  vesselsToBuy,
  type YearlyCost,
} from "../plan/cost";
import { weeklyLitres, type DemandItem } from "../plan/demand";
import { litresStanding } from "../plan/standing-in-use";
import {
  meterLife,
  meterShape,
  optionBed,
  optionLifeInput,
  type MeterLife,
  type OptionFigures,
  type PlanQuestion,
} from "../plan/figures";
import { filledAtOnce, hasMembrane, isAerated, isBoosted, resinIn } from "../plan/options";
import { membraneBother, AIR_PUMP_WATTS, BULK_ORDERS, PUMP_WATTS } from "../plan/prices";
import { MONTHLY_STANDING_LOSS } from "../resin/storage";
import { fail, succeed, type Result } from "../result";

/** Whose prices they are, and in what money. */
export interface PriceWords {
  /** Such as `EUR`. */
  readonly currency: string;
  /** Such as `your prices of 2027-03-01`. */
  readonly from: string;
  readonly assumed: boolean;
}

export type CostPart = Exclude<keyof YearlyCost, "total">;

/** Every number of an option, with its working. */
export interface OptionExplanations {
  readonly litres: Explanation;
  readonly daysBusiest: Explanation;
  readonly daysQuietest: Explanation;
  readonly cost: Explanation;
  readonly perJob?: Explanation;
  readonly per1000Litres: Explanation;
  readonly refills: Explanation;
  /** Hours of a year at refills and barrels. */
  readonly hours: Explanation;
  /** L of resin, L of tap water, L to waste and kWh of a year; what is 0 is absent. */
  readonly resin: Explanation;
  readonly water: Explanation;
  readonly waste?: Explanation;
  readonly energy?: Explanation;
  readonly purchase: Explanation;
  readonly weight: Explanation;
  readonly contact: Explanation;
  readonly bedVolumes: Explanation;
  readonly pressure: Explanation;
  readonly parts: Readonly<Partial<Record<CostPart, Explanation>>>;
}

const COSTING = "cost accounting: what a year takes, at these prices";
const BY_DEFINITION = "definition";
const typed = "what you entered";

/** An explanation that follows from accounting alone. */
const sum = (base: Omit<Explanation, "school" | "source">): Explanation => ({
  ...base,
  school: COSTING,
  source: BY_DEFINITION,
});

/** One option with all that its workings rest on. */
export class Working {
  readonly ways: BehindBefore;
  readonly filled: number;

  constructor(
    readonly option: OptionFigures,
    readonly question: PlanQuestion,
    readonly words: PriceWords,
    ways: BehindBefore,
    /** What reaches the resin on a usual day: the shape of a meter's curve is made from it. */
    readonly usual: BehindBefore = ways,
  ) {
    this.ways = ways;
    this.filled = filledAtOnce(option.spec);
  }

  price(symbol: string, name: string, value: number, per = ""): ExplanationInput {
    const { currency, from, assumed: isAssumed } = this.words;
    return { symbol, name, value, unit: `${currency}${per}`, from, ...(isAssumed ? { assumption: true } : {}) };
  }

  get year(): ExplanationInput {
    return given("Y", "Water of a year", this.question.demand.year.typical, "L", "the work, its seasons and 52 weeks");
  }

  get charge(): ExplanationInput {
    return given("V", "Water of one refill", this.option.litres.typical, "L", "the life of a charge");
  }

  get vessels(): ExplanationInput {
    return given("n", "Vessels filled at a refill", this.filled, "", "the train");
  }

  get resin(): ExplanationInput {
    return given("B", "Resin in one vessel", resinIn(this.option.spec.vessel), "L", "the vessel and its fill");
  }

  get flush(): ExplanationInput {
    const litres = flushOf(this.option.spec, this.question.prices);
    return planningAssumption("F", "Water that flushes the membrane in a year", litres, "L");
  }

  get wasteRatio(): ExplanationInput {
    const { recovery, secondMembrane } = this.question.setup;
    return given(
      "r",
      `Waste for each litre, recovery ${recovery}${secondMembrane ? ", two in a row" : ""}`,
      this.ways.wasteRatio,
      "L/L",
      "the membrane's setting",
    );
  }

  money(name: string, value: number, formula: string, words: string, inputs: readonly ExplanationInput[]): Explanation {
    return sum({ name, value, unit: `${this.words.currency} a year`, formula, words, inputs });
  }
}

function resinBill(work: Working): Explanation {
  const { option, question } = work;
  return work.money(
    "Resin of a year",
    option.cost.resin,
    "Y / V × n × B × p",
    "refills a year, times the resin of one, times its price",
    [
      work.year,
      work.charge,
      work.vessels,
      work.resin,
      work.price("p", "Resin", resinPrice(option.spec, question.prices), "/L"),
    ],
  );
}

function deliveryBill(work: Working): Explanation {
  const { option, question } = work;
  const share = option.spec.supply === "bulk" ? BULK_ORDERS : 1;
  return work.money(
    "Deliveries of a year",
    option.cost.delivery,
    "Y / V × d × s",
    "refills a year, times a delivery and the share of it that one refill bears",
    [
      work.year,
      work.charge,
      work.price("d", "A delivery", question.prices.delivery),
      planningAssumption("s", "Share of a delivery", share, ""),
    ],
  );
}

/** Minutes of refills and barrels: the formula and its inputs, for the hours and for their price. */
function minutesOf(work: Working): { readonly formula: string; readonly inputs: readonly ExplanationInput[] } {
  const { prices, setup } = work.question;
  const atRefills = [
    work.year,
    work.charge,
    work.vessels,
    { ...work.price("m", "Minutes of a refill", prices.minutesPerRefill), unit: "min" },
  ];
  const ahead = minutesAhead(work.option.spec, work.ways, prices);
  if (ahead === 0) return { formula: "Y / V × n × m", inputs: atRefills };
  const what = isAerated(work.option.spec.before) ? "barrel" : "tank";
  return {
    formula: "(Y / V × n × m + Y / b × k)",
    inputs: [
      ...atRefills,
      planningAssumption("b", `Water of one ${what}`, setup.batch, "L"),
      { ...work.price("k", `Minutes of a ${what}`, ahead), unit: "min" },
    ],
  };
}

function labourBill(work: Working): Explanation {
  const { formula, inputs } = minutesOf(work);
  return work.money(
    "Your time in a year",
    work.option.cost.labour,
    `${formula} × w / 60`,
    "minutes of refills, of barrels and of tanks, by the wage",
    [...inputs, work.price("w", "An hour of work", work.question.prices.wage, "/h")],
  );
}

function explainHours(work: Working): Explanation {
  const { formula, inputs } = minutesOf(work);
  return sum({
    name: "Your time in a year",
    value: work.option.minutesPerYear / 60,
    unit: "h a year",
    formula: `${formula} / 60`,
    words: "minutes of refills, of barrels and of tanks",
    inputs,
  });
}

function waterBills(work: Working): readonly [Explanation, Explanation] {
  const { option, question, ways } = work;
  const { prices } = question;
  const water = work.price("p", "A cubic metre of water", prices.water, "/m³");
  const waste = work.price("p", "A cubic metre of waste", prices.waste, "/m³");
  const membrane = ways.wasteRatio > 0;
  return [
    work.money(
      "Tap water of a year",
      option.cost.water,
      membrane ? "(Y × (1 + r) + F) × p / 1000" : "Y × p / 1000",
      membrane
        ? "the water used and what the membrane wastes, by the cubic metre"
        : "the water used, by the cubic metre",
      membrane ? [work.year, work.wasteRatio, work.flush, water] : [work.year, water],
    ),
    work.money(
      "Waste water of a year",
      option.cost.waste,
      membrane ? "(Y × r + F) × p / 1000" : "Y × r × p / 1000",
      "what the membrane wastes and what flushes it, by the cubic metre",
      membrane ? [work.year, work.wasteRatio, work.flush, waste] : [work.year, work.wasteRatio, waste],
    ),
  ];
}

/** Hours of the pumps by their power; the formula gives Wh. */
function pumpInputs({ option, question, ways }: Working): readonly ExplanationInput[] {
  const { setup, peakFlow, demand } = question;
  const hours = pumpHours(option.spec, ways, setup, peakFlow, demand.year.typical);
  return [
    given("h", "Hours of the booster pump", hours.booster, "h", "water of a year by the membrane's flow"),
    given("t", "Hours of the pump to the tool", hours.toTool, "h", "water of a year by the peak flow"),
    given("a", "Hours of air", hours.air, "h", "barrels of a year"),
    planningAssumption("W", "Pump", PUMP_WATTS, "W"),
    planningAssumption("A", "Air pump", AIR_PUMP_WATTS, "W"),
  ];
}

function powerBill(work: Working): Explanation {
  return work.money(
    "Power of a year",
    work.option.cost.energy,
    "((h + t) × W + a × A) × p / 1000",
    "hours of the pumps by their power",
    [...pumpInputs(work), work.price("p", "Power", work.question.prices.power, "/kWh")],
  );
}

/** What a year takes beside money. */
function explainAmounts(work: Working): Pick<OptionExplanations, "resin" | "water" | "waste" | "energy"> {
  const { resinPerYear, waterPerYear, wastePerYear, energyPerYear } = work.option;
  const wasted = wastePerYear > 0;
  return {
    resin: sum({
      name: "Resin of a year",
      value: resinPerYear,
      unit: "L of resin a year",
      formula: "Y / V × n × B",
      words: "refills a year, times the resin of one",
      inputs: [work.year, work.charge, work.vessels, work.resin],
    }),
    water: sum({
      name: "Tap water of a year",
      value: waterPerYear,
      unit: "L a year",
      formula: wasted ? "Y × (1 + r) + F" : "Y",
      words: wasted ? "the water used, what the membrane wastes and what flushes it" : "the water used",
      inputs: wasted ? [work.year, work.wasteRatio, work.flush] : [work.year],
    }),
    ...(wasted
      ? {
          waste: sum({
            name: "Waste water of a year",
            value: wastePerYear,
            unit: "L a year",
            formula: "Y × r + F",
            words: "what the membrane wastes",
            inputs: [work.year, work.wasteRatio, work.flush],
          }),
        }
      : {}),
    ...(energyPerYear > 0
      ? {
          energy: sum({
            name: "Power of a year",
            value: energyPerYear,
            unit: "kWh a year",
            formula: "((h + t) × W + a × A) / 1000",
            words: "hours of the pumps by their power",
            inputs: pumpInputs(work),
          }),
        }
      : {}),
  };
}

function consumablesBill(work: Working): Explanation {
  const { prices, setup } = work.question;
  const two = membranesIn(work.option.spec, setup) > 1;
  return work.money(
    "Membrane and prefilters of a year",
    work.option.cost.consumables,
    two ? "f + 2 × m / y + o" : "f + m / y + o",
    `prefilters of a year, ${two ? "two membranes" : "a membrane"} spread over ${two ? "their" : "its"} life, and the room it takes`,
    [
      work.price("o", "Room for it", membraneBother(prices).roomPerYear, " a year"),
      work.price("f", "Prefilters", prices.prefiltersPerYear, " a year"),
      work.price("m", "A membrane", prices.membrane),
      work.price("y", "Years a membrane lasts", prices.membraneYears),
    ],
  );
}

function explainPurchase(work: Working): Explanation {
  const { option, question, ways } = work;
  const { prices, setup } = question;
  const { spec } = option;
  const second = membranesIn(spec, setup) > 1 ? secondMembranePrice(prices) : 0;
  const membrane = hasMembrane(spec.before) ? prices.membraneUnit : 0;
  const pump = isBoosted(spec.before) ? prices.boosterPump : 0;
  const barrel = isAerated(spec.before) ? prices.aerator : ways.buysTank ? prices.madeWaterTank : 0;
  const own = spec.vessel.own === true;
  return sum({
    name: "To buy",
    value: purchaseOf(spec, setup, ways.buysTank, prices),
    unit: work.words.currency,
    formula: "n × (a + b × G) + M + S + P + T + F",
    words: "vessels, what stands before them, and the resin of a guard",
    inputs: [
      given("n", "Vessels to buy", vesselsToBuy(spec), "", own ? "one is yours" : "the train"),
      work.price("a", "A vessel's fittings", prices.vesselBase),
      work.price("b", "A litre of vessel", prices.vesselPerLitre, "/L"),
      given("G", "Vessel inside", spec.vessel.grossVolume, "L", "its size"),
      work.price("M", "Membrane unit", membrane),
      work.price("S", "Second membrane, in a housing like a vessel's fittings", second),
      work.price("P", "Booster pump", pump),
      work.price("T", isAerated(spec.before) ? "Aerated barrel" : "Tank for made water, with its pump", barrel),
      work.price("F", "First filling of the guard", guardFill(spec, prices)),
    ],
  });
}

export function explainParts(work: Working): Partial<Record<CostPart, Explanation>> {
  const { option, question, words } = work;
  const { cost } = option;
  const [water, waste] = waterBills(work);
  const purchase = explainPurchase(work);
  const all: Record<CostPart, Explanation> = {
    resin: resinBill(work),
    delivery: deliveryBill(work),
    labour: labourBill(work),
    water,
    waste,
    energy: powerBill(work),
    consumables: consumablesBill(work),
    purchase: work.money("Purchase of a year", cost.purchase, "K / y", "what is bought, spread over its years", [
      given("K", "To buy", purchase.value, words.currency, "vessels and stages", purchase),
      work.price("y", "Years of a purchase", question.prices.years),
    ]),
  };
  return Object.fromEntries(Object.entries(all).filter(([part]) => cost[part as CostPart] > 0));
}

const PART_SYMBOLS: Readonly<Record<CostPart, string>> = {
  resin: "R",
  delivery: "D",
  labour: "L",
  water: "W",
  waste: "S",
  energy: "E",
  consumables: "C",
  purchase: "P",
};

export function explainTotal(work: Working, parts: Partial<Record<CostPart, Explanation>>): Explanation {
  const used = Object.entries(parts) as [CostPart, Explanation][];
  return work.money(
    "Cost of a year",
    work.option.cost.total,
    used.map(([part]) => PART_SYMBOLS[part]).join(" + "),
    "the parts of the year added up",
    used.map(([part, because]) =>
      given(PART_SYMBOLS[part], because.name, because.value, because.unit, "its own working", because),
    ),
  );
}

/** Litres of one refill: of one vessel, of all that are filled, until what counts. */
export function explainLitres(work: Working): Result<Explanation> {
  const { option, question, ways, filled } = work;
  const asked = optionLifeInput(option.spec, ways, question);
  const life = explainLife(asked);
  if (!life.ok) return life;
  const worked = workOutLife(asked);
  if (!worked.ok) return worked;
  const figures = lifeFigures(worked.value);
  if (!figures.ok) return figures;
  const { litresPerThroughput, bed } = worked.value;
  const { throughput } = figures.value;
  const spent = spentThroughput(bed.transferUnits);
  const used =
    option.spec.train === "lead-lag" ? Math.max(1, Math.min(throughput, spent)) : Math.min(throughput, spent);
  const inputs: ExplanationInput[] = [
    given("n", "Vessels filled at a refill", filled, "", "the train"),
    given("v", "Life of one vessel until anything leaks", life.value.value, "L", "resin chemistry", life.value),
  ];
  let formula = "n × v";
  if (used !== throughput) {
    formula = "n × v / T × U";
    const why =
      used === 1
        ? "a guarded lead is used until its sites are paid for once"
        : "by then every bead is taken, though the limit is not reached";
    inputs.push(given("T", "Throughput at the limit", throughput, "", "the front and your limit"));
    inputs.push(given("U", "Throughput when it is changed", used, "", why));
  }
  const meter = meterLife(meterShape(work.usual), worked.value, throughput);
  const factor = question.until === "meter" ? meter.factor : 1;
  if (question.until === "meter") {
    formula += " × f";
    inputs.push(explainMeterFactor(worked.value, meter, throughput));
  }
  const fresh = filled * used * litresPerThroughput * factor;
  const value = litresStanding(fresh, question.demand.year.typical);
  if (value !== fresh) {
    formula += " × s";
    inputs.push(explainStanding(value / fresh, value, question.demand.year.typical));
  }
  return succeed({
    name: "Water of one refill",
    value,
    unit: "L",
    formula,
    words:
      question.until === "meter"
        ? "life of a vessel until a meter shows the limit"
        : "life of a vessel until anything counted in the load leaks",
    inputs,
    school: CHEMISTRY_SCHOOL,
    source: "Hall, Eagleton, Acrivos and Vermeulen 1966",
  });
}

function explainStanding(factor: number, litres: number, perYear: number): ExplanationInput {
  const months = (12 * litres) / perYear;
  return given("s", "Left after standing wet", factor, "", "what the beads lose in the vessel after a year", {
    name: "Left after standing wet",
    value: factor,
    unit: "",
    formula: "(1 − d) ^ (m − 12)",
    words: "a charge that lasts years loses a little every month after the first twelve",
    school: CHEMISTRY_SCHOOL,
    source: "trade practice",
    inputs: [
      planningAssumption("d", "Lost a month", MONTHLY_STANDING_LOSS, ""),
      given("m", "Months that it lasts", months, "months", "water of one refill by the water of a month"),
    ],
  });
}

const METER_WORDS: Readonly<Record<MeterLife["by"], string>> = {
  column: "what a meter sees by this water's column, its carbonic plateau counted, against the first leak",
  plateau: "the carbonic acid that leaks first is above the limit: a meter shows the first leak",
  load: "the load that a meter sees against the whole load, on the side that ends the bed",
};

function explainMeterFactor(working: LifeWorking, meter: MeterLife, throughput: number): ExplanationInput {
  const { sides, water } = working;
  const { by, factor: value } = meter;
  const byColumn = by === "column";
  return given("f", "Longer until a meter shows it", value, "", "what a meter sees of this water", {
    name: "Longer until a meter shows it",
    value,
    unit: "",
    formula:
      by === "plateau" ? "1" : `max(1, ${byColumn ? "M / T × " : ""}min(qc, qa) / (EC / 100) / min(qc / Lc, qa / La))`,
    words: METER_WORDS[by],
    school: CHEMISTRY_SCHOOL,
    source: byColumn ? "Helfferich 1962; Plummer and Busenberg 1982" : "Standard Methods 1030 E",
    inputs: [
      ...(byColumn
        ? [
            given("M", "Throughput at which a meter shows the limit", meter.throughput, "", "the column of this water"),
            given("T", "Throughput at the first leak", throughput, "", "the front and your limit"),
          ]
        : []),
      given("qc", "Cation capacity", sides.cation, "eq/L", "the grade"),
      given("qa", "Anion capacity", sides.anion, "eq/L", "the grade"),
      given("EC", "Conductivity of what reaches the resin", water.ec25, "µS/cm", "the feed"),
      given("Lc", "Cation load", water.cationLoad, "meq/L", "the feed"),
      given("La", "Anion load, carbon dioxide and silica counted", water.anionLoad, "meq/L", "the feed"),
    ],
  });
}

function explainDays(work: Working, name: string, perWeek: number, days: number, litres: Explanation): Explanation {
  return sum({
    name,
    value: days,
    unit: "days",
    formula: "7 × V / w",
    words: "water of one refill, by the water of a week in that month",
    inputs: [
      given("V", "Water of one refill", work.option.litres.typical, "L", "the life of a charge", litres),
      given("w", "Water of a week", perWeek, "L", "the work and that month's factor"),
    ],
  });
}

/**
 * How every number of an option came about, money in the user's currency.
 * @returns a fault for an option through which no water comes
 */
export function explainOption(
  option: OptionFigures,
  question: PlanQuestion,
  words: PriceWords,
): Result<OptionExplanations> {
  const ways = behind(option.spec.before, question.waters.typical, question.peakFlow, question.setup);
  if (!ways.ok) return ways;
  if (option.litres.typical <= 0) return fail("unreachable", option.reasons[0] ?? "This gives no water.");
  const work = new Working(option, question, words, ways.value);
  const litres = explainLitres(work);
  if (!litres.ok) return litres;
  const bed = explainBed(optionBed(option.spec, ways.value.flow, question.waters.typical.temperature));
  if (!bed.ok) return bed;
  const { vessel, train } = option.spec;
  const weight = explainWeight({ empty: vessel.emptyWeight, resin: resinIn(vessel), grossVolume: vessel.grossVolume });
  if (!weight.ok) return weight;
  const parts = explainParts(work);
  const cost = explainTotal(work, parts);
  const { demand } = question;
  const total = given("C", "Cost of a year", cost.value, cost.unit, "its parts", cost);
  const pressure = bed.value.pressure;
  return succeed({
    litres: litres.value,
    daysBusiest: explainDays(
      work,
      "Days in the busiest month",
      demand.busiest,
      option.daysBusiest.typical,
      litres.value,
    ),
    daysQuietest: explainDays(
      work,
      "Days in the quietest month",
      demand.quietest,
      option.daysQuietest.typical,
      litres.value,
    ),
    cost,
    ...(option.perJob === undefined
      ? {}
      : {
          perJob: sum({
            name: "Cost of a job",
            value: option.perJob,
            unit: words.currency,
            formula: "C / J",
            words: "cost of a year by the jobs of a year",
            inputs: [total, given("J", "Jobs of a year", demand.jobsPerYear, "", "the work and its seasons")],
          }),
        }),
    per1000Litres: sum({
      name: "Cost of 1000 litres",
      value: option.per1000Litres,
      unit: `${words.currency} per 1000 L`,
      formula: "1000 × C / Y",
      words: "cost of a year by the water of a year",
      inputs: [total, work.year],
    }),
    refills: sum({
      name: "Refills a year",
      value: option.refillsPerYear,
      unit: "a year",
      formula: "Y / V",
      words: "water of a year by the water of one refill",
      inputs: [work.year, { ...work.charge, because: litres.value }],
    }),
    hours: explainHours(work),
    ...explainAmounts(work),
    purchase: explainPurchase(work),
    weight: weight.value,
    contact: bed.value.contact,
    bedVolumes: bed.value.bedVolumes,
    pressure:
      train === "lead-lag"
        ? {
            ...pressure,
            value: 2 * pressure.value,
            formula: `2 × p`,
            words: "two beds, one behind the other",
            inputs: [given("p", "Pressure loss in one bed", pressure.value, "kPa", "Ergun's equation", pressure)],
          }
        : pressure,
    parts,
  });
}

const ITEM_FORMULAS: { readonly [kind in DemandItem["by"]]: string } = {
  jobs: "j × l",
  rinse: "j × m × q",
  tank: "V × s × j + 7 × e",
  total: "t",
};

function itemInputs(item: DemandItem): ExplanationInput[] {
  if (item.by === "jobs")
    return [
      given("j", "Jobs a week", item.perWeek, "", typed),
      given("l", "Water of a job", item.litresEach, "L", `${item.quality}`),
    ];
  if (item.by === "rinse")
    return [
      given("j", "Rinses a week", item.perWeek, "", typed),
      given("m", "Minutes of one", item.minutes, "min", `${item.quality}`),
      given("q", "Flow", item.flow, "L/min", typed),
    ];
  if (item.by === "tank")
    return [
      given("V", "Tank", item.volume, "L", typed),
      given("s", "Share changed", item.changeShare, "", typed),
      given("j", "Changes a week", item.changesPerWeek, "", typed),
      given("e", "Evaporation a day", item.evaporation, "L", `${item.quality}`),
    ];
  return [given("t", "Water of a week", item.litresPerWeek, "L", `${item.quality}`)];
}

/** How the water of a usual week came about: each kind of work, added up. */
export function explainDemand(items: readonly DemandItem[]): Explanation {
  const parts = items.map((item, i) => {
    const because = sum({
      name: item.name ?? "Work",
      value: weeklyLitres(item),
      unit: "L a week",
      formula: ITEM_FORMULAS[item.by],
      words: item.by === "tank" ? "what is changed and what evaporates" : "how often, times the water of each",
      inputs: itemInputs(item),
    });
    return given(`w${i + 1}`, item.name ?? "Work", because.value, "L", "its own working", because);
  });
  return sum({
    name: "Water of a week",
    value: parts.reduce((total, { value }) => total + value, 0),
    unit: "L a week",
    formula: parts.map(({ symbol }) => symbol).join(" + "),
    words: "each kind of work, added up",
    inputs: parts,
  });
}

/** How sure the water of a week is: the end of its range, from how well each kind of work is known. */
export function explainDemandSpread(items: readonly DemandItem[], high: number): Explanation {
  const of = (quality: WaterQuality) =>
    items.filter((item) => item.quality === quality).reduce((total, item) => total + weeklyLitres(item), 0);
  const usual = explainDemand(items);
  const error = (symbol: string, quality: WaterQuality): ExplanationInput =>
    planningAssumption(symbol, `Error of what is ${quality}`, WATER_UNCERTAINTY[quality], "");
  return {
    name: "Water of a week, at most",
    value: high,
    unit: "L a week",
    formula: "w + z × ((a × m)^2 + (b × t)^2 + (c × u)^2)^0.5",
    words: "the usual week and what its figures may err: each kind as one, the kinds apart from each other",
    school: "10 and 90 % of a normal error",
    source: "definition",
    inputs: [
      given("w", "Water of a usual week", usual.value, "L", "the work", usual),
      given("z", "To the 90 % point", NORMAL_90, "", "the normal distribution"),
      error("a", "metered"),
      given("m", "Metered water", of("metered"), "L", "the work"),
      error("b", "timed"),
      given("t", "Timed water", of("timed"), "L", "the work"),
      error("c", "guessed"),
      given("u", "Guessed water", of("guessed"), "L", "the work"),
    ],
  };
}
