import type { ReportAnswer } from "@winter-bead/core";
import Svg, { G, Line, Pattern, Defs, Path, Rect, Text as SvgText } from "react-native-svg";
import { useId } from "react";
import { threeDigits } from "../../ui/format";
import { ION_NAMES, ionTone, onIonTone, type IonName } from "../../ui/ions";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";

interface Piece {
  readonly ion: IonName;
  /** meq/L. */
  readonly load: number;
  /** Not seen by a meter. */
  readonly hidden?: boolean;
}

const ROW = 40;
const GAP = 26;
const TOP = 20;
const HEIGHT = TOP + 2 * ROW + GAP + 26;
const NARROWEST_LABEL = 34;

function piecesOf({ cations, anions, hidden, water }: ReportAnswer): { top: Piece[]; bottom: Piece[] } {
  const seen = (side: typeof cations, total: number, name: IonName): Piece[] =>
    side.length > 0 ? side.map(({ ion, load }) => ({ ion, load })) : [{ ion: name, load: total }];
  return {
    top: [
      ...seen(cations, water.cationLoad, "ca"),
      ...(hidden.ammonia > 0 ? [{ ion: "nh4" as const, load: hidden.ammonia, hidden: true }] : []),
    ],
    bottom: [
      ...seen(anions, hidden.visible, "cl"),
      ...(hidden.co2 > 0 ? [{ ion: "co2" as const, load: hidden.co2, hidden: true }] : []),
      ...(hidden.silica > 0 ? [{ ion: "silica" as const, load: hidden.silica, hidden: true }] : []),
    ],
  };
}

const sum = (pieces: readonly Piece[]) => pieces.reduce((total, { load }) => total + load, 0);

/** What the drawing says, for those who don't see it. */
export function barWords(answer: ReportAnswer): string {
  const { top, bottom } = piecesOf(answer);
  const side = (pieces: readonly Piece[]) =>
    pieces
      .map(({ ion, load, hidden }) => `${ION_NAMES[ion]} ${threeDigits(load)}${hidden ? " (not seen by a meter)" : ""}`)
      .join(", ");
  return `Equivalents, meq/L. Cations: ${side(top)}. Anions: ${side(bottom)}.`;
}

function Side({
  pieces,
  y,
  perLoad,
  hatch,
  unknown,
}: {
  readonly pieces: readonly Piece[];
  readonly y: number;
  readonly perLoad: number;
  readonly hatch: string;
  readonly unknown: boolean;
}) {
  const colours = usePalette();
  let x = 0;
  return (
    <G>
      {pieces.map(({ ion, load, hidden }) => {
        const from = x;
        const width = load * perLoad;
        x += width;
        const plain = unknown && !hidden;
        const label = plain ? "all that a meter shows" : ION_NAMES[ion];
        const fits = width > Math.max(NARROWEST_LABEL, 9 * label.length);
        return (
          <G key={ion + String(hidden)}>
            <Rect
              x={from}
              y={y}
              width={Math.max(1, width - 1)}
              height={ROW}
              fill={hidden ? `url(#${hatch})` : plain ? colours.frost : ionTone(ion, colours)}
              stroke={colours.ink}
              strokeWidth={hidden ? 1.6 : 0.8}
              strokeDasharray={hidden ? "4 3" : undefined}
            />
            {fits ? (
              <SvgText
                x={from + width / 2}
                y={y + ROW / 2 + 5}
                fontSize={15}
                fontWeight="700"
                textAnchor="middle"
                fill={hidden || plain ? colours.ink : onIonTone(ion, colours)}
              >
                {label}
              </SvgText>
            ) : null}
          </G>
        );
      })}
    </G>
  );
}

/** Both sides of a water in equivalents, from one line: balanced sides are equally long; what no meter sees is hatched. */
export function EquivalentsBar({ answer }: { readonly answer: ReportAnswer }) {
  const colours = usePalette();
  const hatch = useId();
  const { top, bottom } = piecesOf(answer);
  const longest = Math.max(sum(top), sum(bottom), 1e-9);
  return (
    <Measured>
      {(width) => {
        const perLoad = (width - 2) / longest;
        const second = TOP + ROW + GAP;
        return (
          <Svg width={width} height={HEIGHT} role="img" aria-label={barWords(answer)} testID="equivalents">
            <Defs>
              <Pattern id={hatch} width={6} height={6} patternUnits="userSpaceOnUse">
                <Rect width={6} height={6} fill={colours.card} />
                <Path d="M0 6 L6 0" stroke={colours.soft} strokeWidth={1.2} />
              </Pattern>
            </Defs>
            <SvgText x={0} y={TOP - 6} fontSize={14} fill={colours.soft}>
              {`Cations ${threeDigits(sum(top))} meq/L`}
            </SvgText>
            <Side pieces={top} y={TOP} perLoad={perLoad} hatch={hatch} unknown={answer.cations.length === 0} />
            <SvgText x={0} y={second - 6} fontSize={14} fill={colours.soft}>
              {`Anions ${threeDigits(sum(bottom))} meq/L`}
            </SvgText>
            <Side pieces={bottom} y={second} perLoad={perLoad} hatch={hatch} unknown={answer.anions.length === 0} />
            <Line x1={0} x2={0} y1={TOP} y2={second + ROW} stroke={colours.ink} strokeWidth={2} />
            <SvgText x={width} y={HEIGHT - 6} fontSize={14} fill={colours.soft} textAnchor="end">
              hatched: no meter shows it
            </SvgText>
          </Svg>
        );
      }}
    </Measured>
  );
}
