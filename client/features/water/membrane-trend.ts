import {
  FLOW_LOST,
  FLOW_WATCH,
  membraneState,
  membraneWear,
  PASSAGE_UP,
  recordedEc25,
  type Id,
  type MembraneCheck,
  type MembraneFigures,
  type MembraneState,
  type Meter,
  type SeenBeside,
  type Suspect,
} from "@winter-bead/core";
import { threeDigits } from "../../ui/format";

/** One check with what follows from it. */
export interface MembranePoint {
  readonly check: MembraneCheck;
  readonly at: number;
  readonly figures: MembraneFigures;
  readonly state: MembraneState;
}

/** A check's figures with its readings as conductivity; undefined when its scale is not known. */
export function figuresOf(
  check: Omit<MembraneCheck, "id">,
  meters: ReadonlyMap<Id, Meter>,
): MembraneFigures | undefined {
  const { meterId, scale, temperature } = check;
  const asReading = (value: number) => recordedEc25({ meterId, scale, value, temperature }, meters);
  const [feedEc25, productEc25] = [asReading(check.feed), asReading(check.product)];
  if (feedEc25 === undefined || productEc25 === undefined) return undefined;
  const { pressure, permeatePressure, productFlow, wasteFlow } = check;
  return { feedEc25, productEc25, temperature, pressure, permeatePressure, productFlow, wasteFlow };
}

export interface MembraneTrend {
  readonly points: readonly MembranePoint[];
  /** The last clean baseline before the newest check. */
  readonly clean: MembraneFigures | undefined;
}

/** A rig's checks in order, each against the clean baseline before it. */
export function membraneTrend(checks: readonly MembraneCheck[], meters: ReadonlyMap<Id, Meter>): MembraneTrend {
  const points: MembranePoint[] = [];
  let clean: MembraneFigures | undefined;
  for (const check of [...checks].sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const figures = figuresOf(check, meters);
    if (!figures) continue;
    if (check.clean) clean = figures;
    const state = membraneState(figures, clean);
    if (state.ok) points.push({ check, at: Date.parse(check.at), figures, state: state.value });
  }
  return { points, clean };
}

function flowWords({ flowShare }: MembranePoint["state"]): string {
  if (flowShare === undefined) return "No clean baseline yet: mark the first check after a new or cleaned membrane.";
  if (flowShare <= FLOW_LOST)
    return "The flow has fallen by 15 % or more from clean: clean the membrane, or replace it.";
  if (flowShare <= FLOW_WATCH) return "The flow has fallen by 10 % or more from clean: watch it, and plan a cleaning.";
  return "The flow is as it was when clean.";
}

/** The headline: flow and rejection, for a membrane can lose either. */
export function stateWords({ state }: Pick<MembranePoint, "state">): string {
  const { rejection, passageRatio } = state;
  const held = `It holds back ${threeDigits(100 * rejection)} %`;
  const salt =
    passageRatio === undefined
      ? `${held}.`
      : passageRatio >= PASSAGE_UP
        ? `${held}: it lets ${threeDigits(passageRatio)} times as much salt through as when clean. Look at its seals, then at the membrane.`
        : `${held}, as when clean.`;
  return `${flowWords(state)} ${salt}`;
}

/** What is worn, likeliest first, as of a check. */
export function wearOf(point: MembranePoint, clean: MembraneFigures | undefined): readonly Suspect[] {
  const suspects = membraneWear(point.figures, clean, (point.check.seen ?? {}) as SeenBeside);
  return suspects.ok ? suspects.value : [];
}
