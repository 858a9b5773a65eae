import type { Stage } from "@winter-bead/core";
import Svg, { Circle, Line, Path, Rect } from "react-native-svg";
import { usePalette } from "./palette";

/** A stage as a small sign: grains, coal, a wound sheet, bubbles, beads. Drawn in a box of 24. */
export function StageSign({ kind, size }: { readonly kind: Stage["kind"]; readonly size: number }) {
  const { ink, card, bead, taken } = usePalette();
  const shell = <Rect x={6} y={2} width={12} height={20} rx={4} fill={card} stroke={ink} strokeWidth={1.6} />;
  const dots = (places: readonly (readonly [number, number])[], r: number, fill: string) =>
    places.map(([x, y]) => (
      <Circle key={`${x} ${y}`} cx={x} cy={y} r={r} fill={fill} stroke={bead} strokeWidth={0.7} />
    ));
  return (
    <Svg width={size} height={size} viewBox="0 0 24 24" aria-hidden>
      {shell}
      {kind === "sediment"
        ? [6, 9.5, 13, 16.5].map((y) => (
            <Line key={y} x1={8} x2={16} y1={y} y2={y + 2} stroke={ink} strokeWidth={1.3} />
          ))
        : null}
      {kind === "carbon" ? <Rect x={9} y={5} width={6} height={14} rx={1.5} fill={ink} /> : null}
      {kind === "membrane" ? (
        <Path
          d="M12 12 m0 -1.6 a1.6 1.6 0 1 1 -1.6 1.6 a3 3 0 0 1 6 0 a4.4 4.4 0 0 1 -8.6 1.2"
          fill="none"
          stroke={ink}
          strokeWidth={1.4}
        />
      ) : null}
      {kind === "degasser"
        ? dots(
            [
              [10, 17],
              [14, 14],
              [10.5, 10.5],
              [13.5, 7],
            ],
            1.6,
            card,
          )
        : null}
      {kind === "resin"
        ? dots(
            [
              [9.5, 6],
              [14.5, 6],
              [12, 10],
              [9.5, 14],
              [14.5, 14],
              [12, 18],
            ],
            2,
            taken,
          )
        : null}
    </Svg>
  );
}
