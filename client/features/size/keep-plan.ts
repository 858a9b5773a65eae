import type { Demand, OptionFigures, Plan, SizeInput, Tap, Use } from "@winter-bead/core";
import { BEFORE_ASSUMPTIONS, planFigures } from "@winter-bead/core/src/sizing";
import { toShown, type Units } from "../../ui/format";
import { USE_PRESETS } from "./work-presets";
import { typedFigures, typedFill, typedSetup, type TypedItem, type TypedWork } from "./work-as-typed";

/** What a plan is made of. */
export interface PlanParts {
  readonly option: OptionFigures;
  readonly demand: Demand;
  readonly work: SizeInput;
  readonly tap: Tap;
  readonly use: Use;
  readonly currency: string;
  readonly now: Date;
}

/** A choice as it is kept; its name can be changed later. */
export const planBody = ({ option, demand, work, tap, use, currency, now }: PlanParts): Omit<Plan, "id"> => ({
  name: `${option.spec.vessel.name} at ${tap.name}`,
  keptAt: now.toISOString(),
  use,
  tapId: tap.id,
  jobName: USE_PRESETS[use].jobName,
  work,
  option: option.spec,
  expected: planFigures(option, demand),
  currency,
});

const text = (value: number) => String(Number(value.toPrecision(4)));

/** A plan's work as it would be typed, so that it can be changed. */
export function typedOfPlan({ work, use, tapId }: Plan, units: Units): Partial<TypedWork> {
  const items = work.demand.items.map((item, i): TypedItem => {
    const figures = typedFigures(item.by, item as unknown as Record<string, number>, units);
    return { key: `plan-${i}`, by: item.by, name: item.name ?? "", quality: item.quality, figures };
  });
  const { season } = work.demand;
  const shownOr = (value: number | undefined, quantity: Parameters<typeof toShown>[0]) =>
    value === undefined ? "" : text(toShown(quantity, value, units));
  return {
    use,
    tapId,
    items,
    season: season ? "own" : "even",
    ...(season ? { months: season.map((share) => text(100 * share)) } : {}),
    peakFlow: shownOr(work.peakFlow, "flow"),
    ...typedFill(work.before?.fillFlow, units),
    limit: text(work.limit.value),
    limitScale: String(work.limit.scale),
    lift: shownOr(work.liftLimit ?? 25, "weight"),
    budget: work.budget === undefined ? "" : text(work.budget),
    supply: shownOr(work.pressure?.supply, "pressure"),
    needed: shownOr(work.pressure?.needed, "pressure"),
    ...typedSetup({ ...BEFORE_ASSUMPTIONS, ...work.before }, units),
    priority: work.priority ?? "money",
    pinned: [],
  };
}
