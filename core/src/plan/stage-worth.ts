import { fail, finite, within, type Result } from "../result";
import type { YearlyCost } from "./cost";
import { beforeWith, type Addition, type OptionSpec } from "./options";
import { scenario, type ScenarioAnswer } from "./scenario";
import { planQuestion, type SizeInput } from "./size";

/** An addition against the resin it saves, money of a year. */
export interface StageWorth {
  readonly addition: Addition;
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
 * What a membrane, a booster pump or a degassing barrel would save and cost in a year on top of an option: the resin bill
 * against purchase, power, waste and bother.
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
  for (const addition of ["membrane", "booster", "aeration"] as const) {
    const before = beforeWith(option.before, addition);
    const changed = before && scenario({ ...option, before }, question.value);
    if (!changed?.ok) continue;
    const change = costChange(without.value.cost, changed.value.cost);
    found.push({
      addition,
      without: without.value,
      with: changed.value,
      change,
      saves: -change.total,
      pays: change.total < 0,
    });
  }
  return finite(found);
}

/** `a membrane`, `a booster pump`, `a degassing barrel`. */
export const ADDITION_WORDS: Readonly<Record<Addition, string>> = {
  membrane: "a membrane",
  booster: "a booster pump",
  aeration: "a degassing barrel",
};
