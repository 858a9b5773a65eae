import type { Scene, Spot } from "@winter-bead/core/src/refill";
import Svg, { Circle, G, Line, Path, Rect } from "react-native-svg";
import { usePalette } from "../../ui/palette";
import type { Palette } from "../../ui/theme";
import { Marks } from "./Marks";
import type { Point } from "./vessel-shape";

const ARROW = "m-6 -5l6 5l-6 5";

interface Laid {
  readonly scene: Scene;
  readonly colours: Palette;
  readonly middle: number;
  readonly half: number;
  /** Under the head, of the bowl, and of the cartridge in it. */
  readonly top: number;
  readonly bowlTop: number;
  readonly bottom: number;
  readonly from: number;
  readonly to: number;
}

/** The cartridge: wound round its hollow middle, a flat seal at both ends. */
function Element({ scene, colours, middle, half, from, to }: Laid) {
  if (!scene.element || scene.element === "none") return null;
  const inner = 0.62 * half;
  const isOld = scene.element === "old";
  return (
    <G>
      <Rect
        x={middle - inner}
        y={from}
        width={2 * inner}
        height={to - from}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={1.8}
      />
      {Array.from({ length: 7 }, (_, i) => (
        <Line
          key={i}
          x1={middle - inner}
          x2={middle + inner}
          y1={from + ((to - from) * (i + 0.7)) / 7}
          y2={from + ((to - from) * (i + 0.3)) / 7}
          stroke={isOld ? colours.ink : colours.frost}
          strokeWidth={isOld ? 5 : 1.4}
        />
      ))}
      <Rect
        x={middle - 8}
        y={from}
        width={16}
        height={to - from}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={1.2}
      />
      {[from - 5, to].map((y) => (
        <Rect key={y} x={middle - inner - 2} y={y} width={2 * inner + 4} height={6} rx={2} fill={colours.ink} />
      ))}
    </G>
  );
}

/** From outside to inside; along a membrane, with the product out of its middle; or out, while the pressure falls. */
function Flow({ scene, colours, middle, half, top, from, to }: Laid) {
  const stroke = { fill: "none", stroke: colours.ink, strokeWidth: 2.2 } as const;
  const out = <Path d={`M${middle + half + 12} ${top - 42}h26${ARROW}`} {...stroke} />;
  if (scene.waterGoes === "out")
    return (
      <G>
        <Path
          d={`M${middle - half - 36} ${top - 34}l14 18m0 -18l-14 18`}
          stroke={colours.rowan}
          strokeWidth={2.6}
          fill="none"
        />
        {out}
      </G>
    );
  if (scene.waterGoes !== "through") return null;
  const across = (from + to) / 2;
  return (
    <G>
      <Path d={`M${middle - half - 40} ${top - 42}h26${ARROW}`} {...stroke} />
      {out}
      {scene.along ? (
        [-1, 1].map((side) => (
          <Path
            key={side}
            d={`M${middle + side * (half - 9)} ${from + 12}v${0.6 * (to - from)}m-5 -7l5 7l5 -7`}
            {...stroke}
          />
        ))
      ) : (
        <G>
          <Path d={`M${middle - half + 4} ${across}h${half - 14}${ARROW}`} {...stroke} />
          <Path d={`M${middle + half - 4} ${across}h${-half + 14}m6 -5l-6 5l6 5`} {...stroke} />
        </G>
      )}
      <Path d={`M${middle} ${to - 20}V${from + 16}m-5 7l5 -7l5 7`} {...stroke} />
    </G>
  );
}

/** Head, bowl, O-ring and lines. */
function Housing({ scene, colours, middle, half, top, bowlTop, bottom }: Laid) {
  return (
    <G>
      <Path
        d={`M${middle - half - 8} ${top}v-34q0 -8 8 -8h${2 * half}q8 0 8 8v34z`}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={2.2}
      />
      <Path
        d={`M${middle - half} ${bowlTop}V${bottom - 12}q0 12 12 12h${2 * half - 24}q12 0 12 -12V${bowlTop}`}
        fill={scene.water > 0 ? colours.ice : colours.card}
        stroke={colours.ink}
        strokeWidth={2.6}
      />
      {[-1, 1].map((side) => (
        <G key={side}>
          <Circle cx={middle + side * half} cy={bowlTop + 4} r={4} fill={colours.ink} />
          {scene.hoses === "connected" ? (
            <Rect
              x={side < 0 ? middle - half - 42 : middle + half + 8}
              y={top - 31}
              width={34}
              height={14}
              fill={colours.card}
              stroke={colours.ink}
              strokeWidth={1.6}
            />
          ) : null}
        </G>
      ))}
      {scene.head === "on" ? null : (
        <Path
          d={`M${middle + half + 14} ${bowlTop + 10}v30m-5 -7l5 7l5 -7`}
          fill="none"
          stroke={colours.ink}
          strokeWidth={2.2}
        />
      )}
    </G>
  );
}

/** How far the bowl hangs below its head. */
const OPEN = { on: 0, loose: 12, off: 34 } as const;
const HEAD_HEIGHT = 58;

/** A filter housing with its cartridge: bowl, head, flat seals at both ends, the way of the water. */
export function HousingDrawing({
  scene,
  width,
  height,
  label,
}: {
  readonly scene: Scene;
  readonly width: number;
  readonly height: number;
  readonly label: string;
}) {
  const colours = usePalette();
  const middle = width / 2;
  const half = Math.min(52, width / 5);
  const [top, bottom] = [HEAD_HEIGHT, height - 14];
  const bowlTop = top + OPEN[scene.head];
  const laid: Laid = {
    ...{ scene, colours, middle, half, top, bowlTop, bottom },
    ...{ from: bowlTop + 12, to: bottom - 14 },
  };
  const spots: Readonly<Partial<Record<Spot, Point>>> = {
    inlet: { x: middle - half - 16, y: top - 24 },
    outlet: { x: middle + half + 16, y: top - 24 },
    thread: { x: middle - half, y: bowlTop + 4 },
    "o-ring": { x: middle + half, y: bowlTop + 4 },
    "flat-seals": { x: middle, y: laid.from },
  };
  const spotsOf = (names: readonly Spot[]) => names.flatMap((name) => spots[name] ?? []);
  return (
    <Svg width={width} height={height} role="img" aria-label={label} testID="drawing">
      <Housing {...laid} />
      <Element {...laid} />
      <Flow {...laid} />
      <Marks looks={spotsOf(scene.look)} crosses={spotsOf(scene.noBeads)} colours={colours} />
    </Svg>
  );
}
