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
  if (flowShare <= FLOW_LOST) return "The flow has fallen by 15 % or more from clean.";
  if (flowShare <= FLOW_WATCH) return "The flow has fallen by 10 % or more from clean.";
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
        ? `${held}: it lets ${threeDigits(passageRatio)} times as much salt through as when clean.`
        : `${held}, as when clean.`;
  return `${flowWords(state)} ${salt}`;
}

/** What a check with readings alone says at once. @example rejectionWords(40, 3) // "It holds back 92.5 %." */
export const rejectionWords = (feed: number, product: number): string =>
  feed > 0 && product <= feed ? `It holds back ${threeDigits(100 * (1 - product / feed))} %.` : "";

/** What is changed next, by the cause that is likeliest for its money; the same wherever it is named. */
export const NEXT_ACTION: Readonly<Partial<Record<Suspect["cause"], string>>> = {
  "prefilter-clogged": "a new sediment cartridge",
  "carbon-spent": "a new carbon cartridge",
  "membrane-worn": "clean the membrane and look at its seals, then a new one",
};

/** What is worn, likeliest first, as of a check. */
export function wearOf(point: MembranePoint, clean: MembraneFigures | undefined): readonly Suspect[] {
  const suspects = membraneWear(point.figures, clean, (point.check.seen ?? {}) as SeenBeside);
  return suspects.ok ? suspects.value : [];
}
