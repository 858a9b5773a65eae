import { fail, finite, within, type Result } from "../result";
import { membranesIn, type YearlyCost } from "./cost";
import { beforeWith, type Addition, type OptionSpec } from "./options";
import { scenario, type ScenarioAnswer } from "./scenario";
import { planQuestion, type SizeInput } from "./size";

/** An addition against the resin it saves, money of a year. */
export interface StageWorth {
  readonly addition: Addition | "second-membrane";
  readonly without: ScenarioAnswer;
  readonly with: ScenarioAnswer;
  /** What each part changes; below 0 is saved. The parts add up to the total. */
  readonly change: YearlyCost;
  /** Money a year that it saves; below 0 it costs. */
  readonly saves: number;
  readonly pays: boolean;
}

export interface StageWorthInput {
  readonly work: SizeInput;
  readonly option: OptionSpec;
}

const PARTS = ["resin", "delivery", "labour", "water", "waste", "energy", "consumables", "purchase"] as const;

/** Part by part, the one less the other. */
export function costChange(from: YearlyCost, to: YearlyCost): YearlyCost {
  const parts = Object.fromEntries(PARTS.map((part) => [part, to[part] - from[part]])) as Omit<YearlyCost, "total">;
  return { ...parts, total: Object.values(parts).reduce((sum, part) => sum + part, 0) };
}

/**
 * What a membrane, a booster pump, a degassing barrel or a second membrane would save and cost in a year on top of an
 * option: the bill of resin and water against purchase, power, waste and bother.
 *
 * @returns only the additions that the option hasn't got and that can do the work
 * @example stageWorth({ work, option }).value.find(({ addition }) => addition === "booster").saves // 30.9
 */
export function stageWorth({ work, option }: StageWorthInput): Result<readonly StageWorth[]> {
  const question = within("work", planQuestion(work));
  if (!question.ok) return question;
  const without = scenario(option, question.value);
  if (!without.ok) return fail(without.fault.code, without.fault.message, "option");
  const found: StageWorth[] = [];
  const weigh = (addition: StageWorth["addition"], changed: Result<ScenarioAnswer> | undefined) => {
    if (!changed?.ok) return;
    const change = costChange(without.value.cost, changed.value.cost);
    const saves = -change.total;
    found.push({ addition, without: without.value, with: changed.value, change, saves, pays: saves > 0 });
  };
  for (const addition of ["membrane", "booster", "aeration"] as const) {
    const before = beforeWith(option.before, addition);
    weigh(addition, before && scenario({ ...option, before }, question.value));
  }
  const { setup } = question.value;
  if (membranesIn(option, setup) === 1)
    weigh("second-membrane", scenario(option, { ...question.value, setup: { ...setup, secondMembrane: true } }));
  return finite(found);
}

/** `a membrane`, `a booster pump`, `a degassing barrel`, `a second membrane on its waste`. */
export const ADDITION_WORDS: Readonly<Record<StageWorth["addition"], string>> = {
  membrane: "a membrane",
  booster: "a booster pump",
  aeration: "a degassing barrel",
  "second-membrane": "a second membrane on its waste",
};
