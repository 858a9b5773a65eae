import { diagnose, type Cause, type Observations, type Suspect } from "../diagnosis/diagnosis";
import type { Result } from "../result";
import { succeed } from "../result";
import { FLOW_WATCH, membraneState, type MembraneFigures } from "./trend";

const TRAIN_CAUSES: readonly Cause[] = ["prefilter-clogged", "carbon-spent", "membrane-worn"];
/** Salt passage against the clean one from which it is said to be up. */
const PASSAGE_UP = 1.5;
/** Share of the clean pressure below which the pressure is said to have fallen. */
const PRESSURE_FALLEN = 0.9;
const FLOW_FALLEN = 0.9;

/** What someone saw who stood beside it. */
export type SeenBeside = Pick<
  Observations,
  "pressure-falls-running" | "sediment-old" | "carbon-old" | "chlorine-behind-carbon" | "membrane-old"
>;

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
    ...(clean && seen["pressure-falls-running"] === undefined ? { "pressure-falls-running": pressureFell } : {}),
  };
  return succeed(diagnose({ ...seen, ...measured }, TRAIN_CAUSES));
}
