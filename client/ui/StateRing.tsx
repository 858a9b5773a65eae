import type { State } from "@winter-bead/core";
import Svg, { Circle, ClipPath, Defs, Rect } from "react-native-svg";
import { useId } from "react";
import { usePalette } from "./palette";

const FILL: Readonly<Record<State, number>> = { fine: 0.12, watch: 0.45, finish: 0.75, change: 1 };

/** A bead that fills: fine, watch, finish, change; always beside its word. */
export function StateRing({ state, size = 36 }: { readonly state: State; readonly size?: number }) {
  const colours = usePalette();
  const clip = useId();
  const needsHand = state === "finish" || state === "change";
  const ink = needsHand ? colours.rowan : colours.ink;
  const top = 2 + 32 * (1 - FILL[state]);
  return (
    <Svg width={size} height={size} viewBox="0 0 36 36" aria-hidden>
      <Defs>
        <ClipPath id={clip}>
          <Circle cx={18} cy={18} r={15} />
        </ClipPath>
      </Defs>
      <Circle cx={18} cy={18} r={15} fill={colours.card} stroke={ink} strokeWidth={2.5} />
      <Rect x={2} y={top} width={32} height={34 - top} fill={ink} clipPath={`url(#${clip})`} />
    </Svg>
  );
}
