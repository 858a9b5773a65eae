import { livesBySchool, type SchoolLife, type SchoolsInput } from "../life/schools";
import { finite, within, type Result } from "../result";
import { behind, type BehindBefore } from "./before";
import { optionLifeInput, type PlanQuestion } from "./figures";
import { filledAtOnce, type OptionSpec } from "./options";

/**
 * Litres of one refill by each school of resin arithmetic, for the water that reaches the resin.
 *
 * @param schools the trade constant, and the owner's history where there is one
 * @example optionSchools(spec, question, { constant: 200_000 }).value.map(({ school }) => school) // ["constant", "chemistry"]
 */
export function optionSchools(
  spec: OptionSpec,
  question: PlanQuestion,
  schools: Pick<SchoolsInput, "constant" | "history">,
): Result<readonly SchoolLife[]> {
  const reached: BehindBefore[] = [];
  for (const key of ["low", "typical", "high"] as const) {
    const ways = behind(spec.before, question.waters[key], question.peakFlow, question.setup);
    if (!ways.ok) return within("before", ways);
    reached.push(ways.value);
  }
  const [low, typical, high] = reached as [BehindBefore, BehindBefore, BehindBefore];
  const { water: _, ...asked } = optionLifeInput(spec, typical, question);
  const waters = { low: low.water, typical: typical.water, high: high.water };
  const lives = livesBySchool({ ...asked, ...schools, waters });
  if (!lives.ok) return lives;
  const filled = filledAtOnce(spec);
  return finite(
    lives.value.map(({ school, low, typical, high }) => ({
      school,
      low: filled * low,
      typical: filled * typical,
      high: filled * high,
    })),
  );
}
