import type { ThreeOf } from "@winter-bead/core";
import Svg, { Circle } from "react-native-svg";
import { usePalette } from "../../ui/palette";

const BEADS = 10;
const IN_A_ROW = 5;
const STEP = 13;
const RADIUS = 4.9;

/** How ten beads stand: free, uncertain, taken. @example beadsOf({ low: 0.2, typical: 0.3, high: 0.45 }) // { free: 2, unsure: 3 } */
export function beadsOf({ low, high }: ThreeOf<number>): { readonly free: number; readonly unsure: number } {
  const free = Math.min(BEADS, Math.floor(BEADS * low + 1e-9));
  return { free, unsure: Math.min(BEADS, Math.max(0, Math.ceil(BEADS * high - 1e-9))) - free };
}

/** What is left of a charge in ten beads: hollow what is surely free, pale what may be, filled what is taken. */
export function Beads({ share }: { readonly share: ThreeOf<number> | undefined }) {
  const colours = usePalette();
  const { free, unsure } = share ? beadsOf(share) : { free: 0, unsure: 0 };
  return (
    <Svg width={STEP * IN_A_ROW} height={STEP * 2} viewBox={`0 0 ${STEP * IN_A_ROW} ${STEP * 2}`} aria-hidden>
      {Array.from({ length: BEADS }, (_, i) => {
        const look =
          share === undefined
            ? { fill: "transparent", stroke: colours.line }
            : i < free
              ? { fill: colours.free, stroke: colours.bead }
              : i < free + unsure
                ? { fill: colours.ice, stroke: colours.frost }
                : { fill: colours.taken, stroke: colours.bead };
        return (
          <Circle
            key={i}
            cx={STEP * (i % IN_A_ROW) + STEP / 2}
            cy={STEP * Math.floor(i / IN_A_ROW) + STEP / 2}
            r={RADIUS}
            strokeWidth={1.6}
            {...look}
          />
        );
      })}
    </Svg>
  );
}
