import { ANION_SPECIES, CATION_SPECIES } from "@winter-bead/core";
import { memo, useId, useMemo } from "react";
import Svg, { Defs, G, Line, Path, Pattern, Rect, Text as SvgText } from "react-native-svg";
import { ION_NAMES, ionTone, type IonName } from "../../ui/ions";
import { usePalette } from "../../ui/palette";
import type { LabFrame, LabRun } from "./lab-run";
import { usePosition, type Player } from "./player";

const CATIONS: readonly IonName[] = [...CATION_SPECIES, "h"];
const ANIONS: readonly IonName[] = [...ANION_SPECIES, "oh"];
const IONS = 6;
const HEIGHT = 300;
const TOP = 30;
const BOTTOM = 20;
const BEAD = 9;
const WALL = 5;
const MOST_WIDTH = 190;
/** Rows of the drawing; cells are joined, since finer could not be seen. */
const ROWS = 50;
const DOMINANT = 0.55;
const LABEL_ROWS = 4;

interface HalfProps {
  readonly shares: Float32Array;
  readonly ions: readonly IonName[];
  readonly x: number;
  readonly width: number;
  readonly y: number;
  readonly height: number;
  /** Cations grow from the left wall, anions from the right. */
  readonly mirrored: boolean;
}

interface Band {
  readonly ion: IonName;
  readonly path: string;
  /** Where its name stands; absent where it holds no depth for itself. */
  readonly labelY?: number;
}

/** The bands of one kind of beads: by depth, each ion's share of the sites as its share of the width. */
export function bandsOf({ shares, ions, x, width, y, height, mirrored }: HalfProps): Band[] {
  const cells = shares.length / IONS;
  const rows = Math.min(ROWS, cells);
  const perRow = Math.floor(cells / rows);
  const edges = new Float32Array(rows + 1);
  const bands: Band[] = [];
  const place = (share: number) => (mirrored ? x + width * (1 - share) : x + width * share);
  const depth = (row: number) => y + (height * row) / rows;
  for (let ion = 0; ion < IONS - 1; ion += 1) {
    let outer = "";
    let inner = "";
    let [sum, weighed, rowsHeld] = [0, 0, 0];
    for (let row = 0; row < rows; row += 1) {
      let share = 0;
      for (let cell = row * perRow; cell < (row + 1) * perRow; cell += 1) share += shares[cell * IONS + ion]!;
      share /= perRow;
      const from = edges[row]!;
      edges[row] = from + share;
      sum += share;
      if (share > DOMINANT) {
        rowsHeld += 1;
        weighed += row + 0.5;
      }
      const [top, bottom] = [depth(row).toFixed(1), depth(row + 1).toFixed(1)];
      outer += `L${place(edges[row]!).toFixed(1)} ${top}V${bottom}`;
      inner = `L${place(from).toFixed(1)} ${bottom}V${top}${inner}`;
    }
    if (sum < 1e-3) continue;
    const path = `M${outer.slice(1)}${inner}Z`;
    bands.push({
      ion: ions[ion]!,
      path,
      ...(rowsHeld >= LABEL_ROWS ? { labelY: depth(weighed / rowsHeld) } : {}),
    });
  }
  return bands;
}

const Bands = ({ bands }: { readonly bands: readonly Band[] }) => {
  const colours = usePalette();
  return (
    <G>
      {bands.map(({ ion, path }) => (
        <Path key={ion} d={path} fill={ionTone(ion, colours)} />
      ))}
    </G>
  );
};

/** Names of the bands, above the beads so that they can be read. */
const BandNames = ({ bands, x }: { readonly bands: readonly Band[]; readonly x: number }) => {
  const colours = usePalette();
  return (
    <G>
      {bands.map(({ ion, labelY }) => {
        if (labelY === undefined) return null;
        const name = ION_NAMES[ion];
        const width = 8 * name.length + 10;
        return (
          <G key={ion}>
            <Rect x={x - width / 2} y={labelY - 10} width={width} height={20} rx={6} fill={colours.card} />
            <SvgText x={x} y={labelY + 5} fontSize={14} fontWeight="700" textAnchor="middle" fill={colours.ink}>
              {name}
            </SvgText>
          </G>
        );
      })}
    </G>
  );
};

/** What stays while the bands move: wall, beads, the names of the sides. */
const Vessel = memo(function Vessel({
  x,
  width,
  sides,
  beads,
  name,
}: {
  readonly x: number;
  readonly width: number;
  readonly sides: readonly string[];
  readonly beads: string;
  readonly name: string;
}) {
  const colours = usePalette();
  const height = HEIGHT - TOP - BOTTOM;
  return (
    <G>
      <Rect x={x + WALL} y={TOP + WALL} width={width - 2 * WALL} height={height - 2 * WALL} fill={`url(#${beads})`} />
      {sides.length === 2 ? (
        <Line x1={x + width / 2} x2={x + width / 2} y1={TOP} y2={TOP + height} stroke={colours.ink} strokeWidth={1} />
      ) : null}
      <Rect
        x={x + 1}
        y={TOP}
        width={width - 2}
        height={height}
        rx={10}
        fill="none"
        stroke={colours.ink}
        strokeWidth={2.4}
      />
      {sides.map((side, i) => (
        <SvgText
          key={side}
          x={x + (width * (2 * i + 1)) / (2 * sides.length)}
          y={TOP - 8}
          fontSize={13}
          textAnchor="middle"
          fill={colours.soft}
        >
          {side}
        </SvgText>
      ))}
      <SvgText x={x + width / 2} y={HEIGHT - 4} fontSize={13} textAnchor="middle" fill={colours.soft}>
        {name}
      </SvgText>
    </G>
  );
});

/** The frame at a place of the film: fresh before the first, the nearest kept one otherwise. */
export function frameAt(run: LabRun, litres: number): LabFrame {
  const { frames } = run;
  let [low, high] = [0, frames.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (frames[middle]!.litres < litres) low = middle + 1;
    else high = middle;
  }
  const [before, after] = [frames[low - 1], frames[low]!];
  return before && litres - before.litres < after.litres - litres ? before : after;
}

const BETWEEN = 12;
/** Kept free beside the beds for the figures. */
const READOUT = 124;

/** Width that the beds of a run take of what there is. */
export const bedWidth = ({ frames }: LabRun, width: number) => {
  const count = frames[0]?.stages.length ?? 1;
  return Math.min(width - READOUT, count * MOST_WIDTH + BETWEEN * (count - 1));
};

export interface BedDrawingProps {
  readonly run: LabRun;
  /** Litres at the end of the film, the same for all variants. */
  readonly until: number;
  readonly player: Player;
  readonly width: number;
  readonly label: string;
}

/** The beds filling with bands of ions as the film runs: beads hollow where free, darker the stronger the ion is held. */
export function BedDrawing({ run, until, player, width, label }: BedDrawingProps) {
  const colours = usePalette();
  const beads = useId();
  const share = usePosition(player);
  const litres = Math.min(share * until, run.totalLitres);
  const frame = frameAt(run, litres);
  const count = frame.stages.length;
  const each = Math.min(MOST_WIDTH, (width - BETWEEN * (count - 1)) / count);
  const inside = { y: TOP + WALL, height: HEIGHT - TOP - BOTTOM - 2 * WALL };
  const names = useMemo(() => ["first", "second", "third"].slice(0, count), [count]);
  return (
    <Svg width={width} height={HEIGHT} role="img" aria-label={label} testID="lab-bed" data-litres={Math.round(litres)}>
      <Defs>
        <Pattern id={beads} width={BEAD} height={BEAD} patternUnits="userSpaceOnUse">
          <Path
            d={`M0 0H${BEAD}V${BEAD}H0Z M${BEAD / 2} ${0.06 * BEAD}A${0.44 * BEAD} ${0.44 * BEAD} 0 1 0 ${BEAD / 2 + 0.01} ${0.06 * BEAD}Z`}
            fill={colours.card}
            fillRule="evenodd"
          />
        </Pattern>
      </Defs>
      {frame.stages.map(({ cation, anion }, i) => {
        const x = i * (each + BETWEEN);
        const half = (each - 2 * WALL) / (cation && anion ? 2 : 1);
        const halves = [
          ...(cation ? [{ shares: cation, ions: CATIONS, x: x + WALL, mirrored: false }] : []),
          ...(anion ? [{ shares: anion, ions: ANIONS, x: x + WALL + (cation ? half : 0), mirrored: true }] : []),
        ].map((side) => ({ x: side.x + half / 2, bands: bandsOf({ ...side, width: half, ...inside }) }));
        const sides = [...(cation ? ["cation beads"] : []), ...(anion ? ["anion beads"] : [])];
        return (
          <G key={names[i]}>
            <Rect x={x + 1} y={TOP} width={each - 2} height={HEIGHT - TOP - BOTTOM} rx={10} fill={colours.ice} />
            {halves.map(({ x: middle, bands }) => (
              <Bands key={middle} bands={bands} />
            ))}
            <Vessel
              x={x}
              width={each}
              sides={each < 150 ? sides.map((side) => side.split(" ")[0]!) : sides}
              beads={beads}
              name={count > 1 ? names[i]! : ""}
            />
            {halves.map(({ x: middle, bands }) => (
              <BandNames key={middle} bands={bands} x={middle} />
            ))}
          </G>
        );
      })}
    </Svg>
  );
}
