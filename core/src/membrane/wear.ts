import { diagnose, type Cause, type Observations, type Suspect } from "../diagnosis/diagnosis";
import type { Result } from "../result";
import { succeed } from "../result";
import type { SeenBeside } from "./membrane-check.record";
import { FLOW_WATCH, membraneState, type MembraneFigures } from "./trend";

const TRAIN_CAUSES: readonly Cause[] = ["prefilter-clogged", "carbon-spent", "membrane-worn"];
/** Salt passage against the clean one from which it is said to be up. */
export const PASSAGE_UP = 1.5;
/** Share of the clean pressure below which the pressure is said to have fallen. */
const PRESSURE_FALLEN = 0.9;
const FLOW_FALLEN = 0.9;

/** What a new one costs, money; the membrane's is the crew's own price. Planning assumptions. */
const CARTRIDGES: Readonly<Partial<Record<Cause, number>>> = { "prefilter-clogged": 10, "carbon-spent": 18 };
/** What speaks against a cause, taken together: it is not the next to be changed. */
const isSpokenAgainst = ({ reasonsFor, reasonsAgainst }: Suspect) =>
  [...reasonsFor, ...reasonsAgainst].reduce((sum, { weight }) => sum + weight, 0) < 0;

/** Below this chance nothing is changed on suspicion. */
const LEAST_CHANCE = 0.2;

export interface NextStep {
  readonly suspect: Suspect;
  /** Money for a new one. */
  readonly costs: number;
}

/**
 * What to try next: the suspect with the most chance for its money, of those that the evidence does not speak against.
 *
 * @param membranePrice money for a new membrane
 * @returns nothing where no suspect is likely enough to spend on
 * @example nextStep(suspects, 70)?.suspect.cause // "prefilter-clogged", which is cheap, before a likelier membrane
 */
export function nextStep(suspects: readonly Suspect[], membranePrice: number): NextStep | undefined {
  return suspects
    .filter((suspect) => suspect.chance >= LEAST_CHANCE && !isSpokenAgainst(suspect))
    .map((suspect) => ({ suspect, costs: CARTRIDGES[suspect.cause] ?? membranePrice }))
    .sort((a, b) => b.suspect.chance / b.costs - a.suspect.chance / a.costs)[0];
}

/**
 * What is worn in an RO train, in order, from today's figures against the clean ones and from what was seen beside it.
 *
 * @returns sediment, carbon and membrane, likeliest first, or the fault of a figure
 * @example membraneWear(today, clean, { "sediment-old": true })
 */
export function membraneWear(
  today: MembraneFigures,
  clean: MembraneFigures | undefined,
  seen: SeenBeside,
): Result<readonly Suspect[]> {
  const state = membraneState(today, clean);
  if (!state.ok) return state;
  const { flowShare, passageRatio } = state.value;
  const pressureFell = clean && today.pressure < PRESSURE_FALLEN * clean.pressure;
  const measured: Observations = {
    ...(flowShare === undefined ? {} : { "flow-lost": flowShare <= FLOW_WATCH }),
    ...(passageRatio === undefined ? {} : { "passage-up": passageRatio >= PASSAGE_UP }),
    ...(clean ? { "flow-low-with-pressure": pressureFell && today.productFlow < FLOW_FALLEN * clean.productFlow } : {}),
  };
  return succeed(diagnose({ ...seen, ...measured }, TRAIN_CAUSES));
}
