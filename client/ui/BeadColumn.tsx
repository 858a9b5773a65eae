import { shareTaken, type ThreeOf } from "@winter-bead/core";
import { memo, useMemo } from "react";
import Svg, { Line, Path, Rect } from "react-native-svg";
import { usePalette } from "./palette";

export interface BeadColumnProps {
  /** Load put on as a share of capacity. */
  readonly throughput: number;
  readonly transferUnits: number;
  /** Depth of the front from the inlet, 0 to 1: early, likely, late; absent where nothing is known: an empty outline. */
  readonly front: ThreeOf<number> | undefined;
  /** Water goes up through a cartridge and down through a tank. */
  readonly up: boolean;
  /** Width over height of the vessel; drawn within what stays readable. */
  readonly proportion: number;
  readonly height: number;
  /** What the drawing says, for those who don't see it. */
  readonly label: string;
  readonly testID?: string;
}

/** Sizes at full height; a small drawing has smaller beads, not fewer. */
const FULL_HEIGHT = 190;
const CAP = 7;
const LARGEST_BEAD = 10;
const SMALLEST_BEAD = 4.5;
const SLIMMEST = 0.26;
const WIDEST = 0.38;

interface Bead {
  readonly x: number;
  readonly y: number;
  readonly depth: number;
}

/** Beads in staggered rows; depth is counted from the inlet. */
function packBeads(left: number, top: number, width: number, height: number, bead: number, up: boolean): Bead[] {
  const rows = Math.floor(height / bead);
  const columns = Math.max(3, Math.floor(width / bead - 0.5));
  const [dx, dy] = [width / (columns + 0.5), height / rows];
  return Array.from({ length: rows }, (_, row) =>
    Array.from({ length: columns }, (_unused, column) => {
      const down = (row + 0.5) / rows;
      return {
        x: left + dx * (column + 0.5 + (row % 2 ? 0.5 : 0)),
        y: top + dy * (row + 0.5),
        depth: up ? 1 - down : down,
      };
    }),
  ).flat();
}

const circle = ({ x, y }: Bead, r: number) =>
  `M${(x - r).toFixed(1)} ${y.toFixed(1)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;

const NOWHERE: ThreeOf<number> = { low: 2, typical: 2, high: 2 };
/** Less than this of a bead is not seen. */
const SEEN = 0.04;

/** All beads of one look in one path: hundreds of circles would cost more than the model. */
function beadPaths(
  beads: readonly Bead[],
  radius: number,
  front: ThreeOf<number>,
  throughput: number,
  transferUnits: number,
) {
  const rings = { sure: "", unsure: "" };
  const taken = { sure: "", unsure: "" };
  for (const each of beads) {
    const look = each.depth >= front.low && each.depth <= front.high ? "unsure" : "sure";
    const share = shareTaken(throughput, each.depth, transferUnits);
    rings[look] += circle(each, radius);
    if (share > SEEN) taken[look] += circle(each, Number((radius * Math.sqrt(share)).toFixed(2)));
  }
  return { rings, taken };
}

/** The vessel itself, whatever stands in it. */
function Shell({ width, height, bead }: { readonly width: number; readonly height: number; readonly bead: number }) {
  const colours = usePalette();
  return (
    <>
      <Rect x={width / 2 - bead} y={0} width={2 * bead} height={CAP + 3} rx={2} fill={colours.ink} />
      <Rect
        x={1}
        y={CAP}
        width={width - 2}
        height={height - CAP - 1}
        rx={Math.min(18, width / 4)}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={2}
      />
    </>
  );
}

/**
 * A cut through the vessel: hollow beads are free, filled ones taken, as the model has them; the frosted band is where the
 * front may stand.
 */
export const BeadColumn = memo(function BeadColumn({
  throughput,
  transferUnits,
  front,
  up,
  proportion,
  height,
  label,
  testID,
}: BeadColumnProps) {
  const colours = usePalette();
  const width = height * Math.min(WIDEST, Math.max(SLIMMEST, proportion));
  const bead = Math.max(SMALLEST_BEAD, Math.min(LARGEST_BEAD, (LARGEST_BEAD * height) / FULL_HEIGHT));
  const wall = 0.8 * bead;
  const bed = { x: wall, y: CAP + wall, width: width - 2 * wall, height: height - CAP - 2 * wall };
  const beads = useMemo(
    () => packBeads(bed.x, bed.y, bed.width, bed.height, bead, up),
    [bed.x, bed.y, bed.width, bed.height, bead, up],
  );
  const { rings, taken } = useMemo(
    () => beadPaths(front ? beads : [], 0.43 * bead, front ?? NOWHERE, throughput, transferUnits),
    [beads, bead, front, throughput, transferUnits],
  );
  const atDepth = (depth: number) => bed.y + bed.height * (up ? 1 - depth : depth);
  const shell = <Shell width={width} height={height} bead={bead} />;
  if (!front)
    return (
      <Svg width={width + 14} height={height} role="img" aria-label={label} testID={testID}>
        {shell}
      </Svg>
    );
  const [edgeA, edgeB] = [atDepth(front.low), atDepth(front.high)];
  const band = { y: Math.min(edgeA, edgeB), height: Math.max(1, Math.abs(edgeB - edgeA)) };
  const pointer = atDepth(front.typical);
  return (
    <Svg width={width + 14} height={height} role="img" aria-label={label} testID={testID}>
      {shell}
      <Path d={rings.sure} fill={colours.free} stroke={colours.bead} strokeWidth={0.11 * bead} testID="beads" />
      <Path
        d={rings.unsure}
        fill={colours.ice}
        stroke={colours.frost}
        strokeWidth={0.11 * bead}
        testID="beads-unsure"
      />
      <Path d={taken.sure} fill={colours.taken} testID="beads-taken" />
      <Path d={taken.unsure} fill={colours.frost} testID="beads-taken-unsure" />
      <Rect
        testID="frosted-band"
        x={3}
        y={band.y}
        width={width - 6}
        height={band.height}
        fill={colours.ice}
        opacity={0.45}
        data-bed-top={bed.y}
        data-bed-height={bed.height}
      />
      <Line
        x1={3}
        x2={width - 3}
        y1={band.y}
        y2={band.y}
        stroke={colours.ink}
        strokeWidth={1.4}
        strokeDasharray="2 3"
      />
      <Line
        x1={3}
        x2={width - 3}
        y1={band.y + band.height}
        y2={band.y + band.height}
        stroke={colours.ink}
        strokeWidth={1.4}
        strokeDasharray="2 3"
      />
      <Path d={`M${width + 2} ${pointer} l9 -5 v10 z`} fill={colours.ink} />
    </Svg>
  );
});
