import {
  FLOW_LOST,
  FLOW_WATCH,
  membraneWear,
  PASSAGE_UP,
  type MembraneFigures,
  type MembranePoint,
  type SeenBeside,
  type Suspect,
} from "@winter-bead/core";
import { threeDigits } from "../../ui/format";

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
