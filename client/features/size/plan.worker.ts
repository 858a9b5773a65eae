import { expose } from "comlink";
import type {
  CapacityRange,
  CrossingAnswer,
  CrossingInput,
  HabitsInput,
  LimitSchoolAnswer,
  OptionSpec,
  Result,
  SchoolLife,
  SizeInput,
  StageWorth,
  Use,
} from "@winter-bead/core";
import {
  byLimitSchool,
  crossing,
  optionSchools,
  planQuestion,
  rankHabits,
  size,
  stageWorth,
} from "@winter-bead/core/src/sizing";
import { answerLives } from "./lives";

export interface SchoolsAsked {
  readonly work: SizeInput;
  readonly option: OptionSpec;
  readonly use: Use;
  readonly constant: number;
  readonly history?: CapacityRange | undefined;
}

export interface SchoolsAnswer {
  readonly arithmetic: readonly SchoolLife[];
  readonly limits: readonly LimitSchoolAnswer[];
}

/** Both kinds of schools for one option. */
function askSchools({ work, option, use, constant, history }: SchoolsAsked): Result<SchoolsAnswer> {
  const question = planQuestion(work);
  if (!question.ok) return question;
  const arithmetic = optionSchools(option, question.value, { constant, ...(history ? { history } : {}) });
  if (!arithmetic.ok) return arithmetic;
  const limits = byLimitSchool(option, question.value, use);
  return limits.ok ? { ok: true, value: { arithmetic: arithmetic.value, limits: limits.value } } : limits;
}

export interface PaysAnswer {
  readonly crossing: CrossingAnswer;
  /** What could stand before the resin, and on a membrane. */
  readonly worth: readonly StageWorth[];
}

/** Where a membrane begins to pay, and what else is worth adding to resin alone and to the membrane. */
function askPays(asked: CrossingInput): Result<PaysAnswer> {
  const found = crossing(asked);
  if (!found.ok) return found;
  const { work } = asked;
  const alone = stageWorth({ work, option: found.value.sides.alone });
  const behindIt = stageWorth({ work, option: found.value.sides.behind });
  const barrelAlone = (alone.ok ? alone.value : []).filter(({ addition }) => addition === "aeration");
  return {
    ok: true,
    value: { crossing: found.value, worth: [...(behindIt.ok ? behindIt.value : []), ...barrelAlone] },
  };
}

const worker = {
  answerLives,
  rankOptions: (input: SizeInput) => size(input),
  askSchools,
  askPays,
  rankHabits: (input: HabitsInput) => rankHabits(input),
};
export type PlanWorker = typeof worker;

expose(worker);
