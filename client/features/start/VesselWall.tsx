import { View } from "@tamagui/core";
import { GENERIC_SIZES, type GenericSize } from "@winter-bead/core/src/plan/options";
import { sizeOfLitres } from "@winter-bead/core/src/start";
import { useEffect, useId, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { ScrollView } from "react-native";
import Svg, { ClipPath, Defs, Line, Path, Pattern, Circle, Rect } from "react-native-svg";
import { Pressable } from "../../ui/boxes";
import { shown, threeDigits, toShown, unitOf, type Units } from "../../ui/format";
import { usePalette } from "../../ui/palette";
import { Small, Strong } from "../../ui/words";
import { vesselShape } from "../refill/vessel-shape";

/** px of the tallest; proportions between sizes are hinted, so that a cartridge stays readable. */
const TALLEST = 190;
const LARGEST = 120;
const SMALLEST = 0.5;
/** Share of the height that the smallest has, and how fast it grows with the litres. */
const FOOT = 0.38;
const GROWS = 0.45;
const heightOf = (litres: number) => Math.round(TALLEST * (FOOT + (1 - FOOT) * (litres / LARGEST) ** GROWS));
/** L of a height on the wall: the way back, for a top that is dragged. */
function litresAt(height: number): number {
  const share = Math.max(0, (height / TALLEST - FOOT) / (1 - FOOT));
  return Math.min(LARGEST, Math.max(SMALLEST, LARGEST * share ** (1 / GROWS)));
}

/** Vessels are told apart by a tenth of their size, not by a drop. */
export const tidyLitres = (litres: number) => Number(litres.toPrecision(2));

function Drawn({ size, chosen }: { readonly size: GenericSize; readonly chosen: boolean }) {
  const colours = usePalette();
  const id = useId();
  const height = heightOf(size.grossVolume);
  const shape = vesselShape(size.kind, size, height);
  const ink = chosen ? colours.ink : colours.frost;
  const bed = shape.floor - shape.rim;
  const top = shape.floor - bed * size.fillFraction;
  return (
    <Svg width={shape.width + 4} height={height + 4} viewBox={`-2 -2 ${shape.width + 4} ${height + 4}`} aria-hidden>
      <Defs>
        <ClipPath id={id}>
          <Path d={shape.inside} />
        </ClipPath>
        <Pattern id={`${id}-beads`} width={9} height={9} patternUnits="userSpaceOnUse">
          <Circle cx={4.5} cy={4.5} r={3.6} fill={colours.free} stroke={colours.bead} strokeWidth={1} />
        </Pattern>
      </Defs>
      <Path d={shape.head} fill={chosen ? colours.ink : colours.line} stroke={ink} strokeWidth={1.5} />
      {chosen ? (
        <Rect
          x={0}
          y={top}
          width={shape.width}
          height={shape.floor - top + 4}
          fill={`url(#${id}-beads)`}
          clipPath={`url(#${id})`}
        />
      ) : null}
      <Path d={shape.wall} fill="none" stroke={ink} strokeWidth={chosen ? 2.6 : 1.8} />
      {chosen ? (
        <Line x1={0} x2={shape.width} y1={top} y2={top} stroke={colours.ink} strokeWidth={1.4} strokeDasharray="3 3" />
      ) : null}
    </Svg>
  );
}

/** The top of the chosen vessel, to be dragged up and down, or moved by the arrow keys. */
function TopHandle({
  litres,
  units,
  onChange,
}: {
  readonly litres: number;
  readonly units: Units;
  readonly onChange: (litres: number) => void;
}) {
  const from = useRef<{ readonly y: number; readonly height: number }>(undefined);
  const step = (times: number) => onChange(tidyLitres(Math.min(LARGEST, Math.max(SMALLEST, litres * times))));
  const { text, unit } = shown("volume", litres, units);
  return (
    <Pressable
      role="slider"
      aria-label="The vessel's size, by its top"
      aria-valuemin={threeDigitsNumber(SMALLEST, units)}
      aria-valuemax={threeDigitsNumber(LARGEST, units)}
      aria-valuenow={threeDigitsNumber(litres, units)}
      aria-valuetext={`${text} ${unit} inside`}
      aria-orientation="vertical"
      testID="vessel-top"
      minHeight={48}
      minWidth={48}
      cursor="ns-resize"
      {...({
        style: { touchAction: "none" },
        onKeyDown: (event: KeyboardEvent) => {
          const up = event.key === "ArrowUp" || event.key === "ArrowRight";
          if (!up && event.key !== "ArrowDown" && event.key !== "ArrowLeft") return;
          event.preventDefault();
          step(up ? 1.06 : 1 / 1.06);
        },
        onPointerDown: (event: PointerEvent<HTMLElement>) => {
          event.preventDefault();
          event.currentTarget.focus();
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = { y: event.clientY, height: heightOf(litres) };
        },
        onPointerMove: (event: PointerEvent<HTMLElement>) => {
          if (from.current) onChange(tidyLitres(litresAt(from.current.height + from.current.y - event.clientY)));
        },
        onPointerUp: () => (from.current = undefined),
        onPointerCancel: () => (from.current = undefined),
      } as object)}
    >
      <Handle />
    </Pressable>
  );
}

const threeDigitsNumber = (litres: number, units: Units) =>
  Number(threeDigits(toShown("volume", litres, units)).replaceAll(",", ""));

function Handle() {
  const colours = usePalette();
  return (
    <Svg width={26} height={26} viewBox="0 0 26 26" aria-hidden>
      <Circle cx={13} cy={13} r={12} fill={colours.ink} />
      <Path d="M8 11 l5 -5 l5 5 M8 15 l5 5 l5 -5" stroke={colours.onInk} strokeWidth={2.2} fill="none" />
    </Svg>
  );
}

/** Vessels on one wall, to slide along and to choose from; the chosen one by its top as large as it is. */
export function VesselWall({
  litres,
  units,
  onChange,
}: {
  /** L inside the chosen one. */
  readonly litres: number;
  readonly units: Units;
  readonly onChange: (litres: number) => void;
}) {
  const mine = Number.isFinite(litres) && litres > 0 ? sizeOfLitres(litres) : undefined;
  const at = mine ? GENERIC_SIZES.findIndex(({ name }) => name === mine.name) : -1;
  const sizes = GENERIC_SIZES.map((size, i) => (i === at ? mine! : size));
  const wall = useRef<ScrollView>(null);
  // The chosen one is brought in sight when the trade or the hand chose another kind; the page itself stays.
  useEffect(() => {
    const vessel = document.getElementById(`wall-${at}`);
    if (vessel) wall.current?.scrollTo({ x: vessel.offsetLeft - vessel.clientWidth, animated: false });
  }, [at]);
  return (
    <View>
      <ScrollView ref={wall} testID="vessel-wall" horizontal contentContainerStyle={{ flexGrow: 1 }}>
        <View flexGrow={1}>
          <View
            role="radiogroup"
            aria-label="Your vessel"
            flexDirection="row"
            alignItems="flex-end"
            justifyContent="space-between"
            gap="$3"
            minHeight={TALLEST + 30}
            paddingHorizontal="$2"
          >
            {sizes.map((size, i) => {
              const chosen = i === at;
              const { text, unit } = shown("volume", size.grossVolume, units);
              return (
                <View key={size.name} id={`wall-${i}`} alignItems="center">
                  {chosen ? <TopHandle litres={litres} units={units} onChange={onChange} /> : null}
                  <Pressable
                    role="radio"
                    aria-checked={chosen}
                    aria-label={`${size.name}, ${text} ${unit}`}
                    testID={`vessel-${i}`}
                    onPress={() => (chosen ? undefined : onChange(size.grossVolume))}
                    justifyContent="flex-end"
                  >
                    <Drawn size={size} chosen={chosen} />
                  </Pressable>
                </View>
              );
            })}
          </View>
          <View height={3} backgroundColor="$ink" marginTop={-4} />
          <View
            flexDirection="row"
            justifyContent="space-between"
            gap="$3"
            paddingTop="$1"
            paddingHorizontal="$2"
            aria-hidden
          >
            {sizes.map((size, i) => {
              const { text } = shown("volume", size.grossVolume, units);
              const Words = i === at ? Strong : Small;
              return (
                <View key={size.name} minWidth={48} alignItems="center">
                  <Words>{i === at ? `${text} ${unitOf("volume", units)}` : text}</Words>
                </View>
              );
            })}
          </View>
        </View>
      </ScrollView>
    </View>
  );
}
