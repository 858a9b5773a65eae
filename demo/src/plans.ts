import {
  unwrap,
  type DemandItem,
  type Plan,
  type PriceList,
  type Prices,
  type SizeInput,
  type Tap,
  type Water,
} from "@winter-bead/core";
import {
  DEFAULT_PRICES,
  generateOptions,
  optionFigures,
  planFigures,
  planQuestion,
  sizeOf,
} from "@winter-bead/core/src/sizing";
import { RIGS, TAPS } from "./places";

const DAY = 86_400_000;

/** What this crew pays, a little off the defaults. */
const PRICES: Prices = {
  ...DEFAULT_PRICES,
  resin: { virgin: 8.4, dyed: 8.9, regenerated: 5.2 },
  delivery: 7.5,
  water: 2.1,
  wage: 27,
};
const CURRENCY = "EUR";

const waterOf = ({ scale, ph, alkalinity, silica, temperature }: Omit<Tap, "id" | "siteId">, value: number): Water => ({
  reading: { value, scale },
  ...(ph === undefined ? {} : { ph }),
  ...(alkalinity === undefined ? {} : { alkalinity }),
  ...(silica === undefined ? {} : { silica }),
  ...(temperature === undefined ? {} : { temperature }),
});

const watersOf = (name: string): SizeInput["waters"] => {
  const { tap } = TAPS.find((each) => each.tap.name === name)!;
  return { low: waterOf(tap, tap.low), typical: waterOf(tap, tap.typical), high: waterOf(tap, tap.high) };
};

interface Asked {
  readonly name: string;
  readonly rig: string;
  readonly tap: string;
  readonly items: readonly DemandItem[];
  readonly limit: number;
  readonly peakFlow: number;
  readonly before: "nothing" | "boosted-membrane";
  readonly until: "leak" | "meter";
}

const ASKED: readonly Asked[] = [
  {
    name: "Van, as it was planned",
    rig: "Van",
    tap: "Yard tap",
    items: [
      { by: "jobs", name: "maintenance cleans", perWeek: 19, litresEach: 55, quality: "guessed" },
      { by: "jobs", name: "first cleans", perWeek: 2, litresEach: 105, quality: "guessed" },
    ],
    limit: 10,
    peakFlow: 3.2,
    before: "nothing",
    until: "meter",
  },
  {
    name: "Fish room with a booster pump",
    rig: "Quarantine",
    tap: "Blending tap",
    items: [
      {
        by: "tank",
        name: "quarantine tanks",
        volume: 620,
        changeShare: 0.25,
        changesPerWeek: 1,
        evaporation: 6,
        quality: "timed",
      },
    ],
    limit: 1,
    peakFlow: 0.24,
    before: "boosted-membrane",
    until: "leak",
  },
];

export interface PlanIds {
  readonly nextId: () => string;
  readonly tapIds: ReadonlyMap<string, string>;
  readonly rigIds: ReadonlyMap<string, string>;
}

/** The crew's prices, a plan in use since the first day, and one that is only thought of. */
export function tellPlans(
  { nextId, tapIds, rigIds }: PlanIds,
  from: number,
  end: number,
): { readonly plans: readonly Plan[]; readonly prices: PriceList } {
  const plans = ASKED.map(({ name, rig, tap, items, limit, peakFlow, before, until }, i): Plan => {
    const demo = RIGS.find((each) => each.rig.name === rig)!;
    const work: SizeInput = {
      demand: { items },
      waters: watersOf(tap),
      limit: { value: limit, scale: "nacl" },
      peakFlow,
      prices: PRICES,
      until,
      own: [sizeOf(demo.vessel)],
    };
    const option = generateOptions(work.own!).find(
      (spec) => spec.before === before && spec.train === "single" && spec.grade === "virgin" && spec.supply === "bag",
    )!;
    const question = unwrap(planQuestion(work));
    const inUse = i === 0;
    return {
      id: nextId(),
      name,
      keptAt: new Date(inUse ? from - 3 * DAY : end - 9 * DAY).toISOString(),
      use: demo.rig.use,
      tapId: tapIds.get(tap)!,
      jobName: demo.rig.jobName,
      work,
      option,
      expected: planFigures(unwrap(optionFigures(option, question)), question.demand),
      currency: CURRENCY,
      ...(inUse ? { rigId: rigIds.get(rig)!, inUseSince: new Date(from).toISOString() } : {}),
    };
  });
  const setOn = new Date(end - 30 * DAY).toISOString().slice(0, 10);
  return { plans, prices: { id: nextId(), setOn, currency: CURRENCY, prices: PRICES } };
}
