import type { VesselKind } from "@winter-bead/core";
import type { Scene, Spot } from "@winter-bead/core/src/refill";
import { memo, useId } from "react";
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { usePalette } from "../../ui/palette";
import type { Palette } from "../../ui/theme";
import { beadsIn } from "./beads-in";
import { HousingDrawing } from "./HousingDrawing";
import { Marks } from "./Marks";
import { markAt, placed, transformOf, vesselShape, type Point, type VesselShape } from "./vessel-shape";

export interface VesselDrawingProps {
  readonly scene: Scene;
  readonly kind: VesselKind;
  readonly size: { readonly grossVolume: number; readonly diameter: number };
  /** Share of the inside at the fill mark. */
  readonly fillTo: number;
  /** Other canisters stand beside it. */
  readonly mount: "alone" | "stand" | "lead-lag";
  readonly width: number;
  readonly height: number;
  /** What the drawing says, for those who do not see it. */
  readonly label: string;
  /** Beside the mark: `6 cm below the rim`. */
  readonly markWords?: string | undefined;
}

const BEAD = 10;
/** Kept free above for a plug, a funnel, falling beads; below for weights. */
const ABOVE = 46;
const BELOW = 8;

/** How far a riser on its way stands out, beside the vessel's height. */
const RAISED = { pulled: 0.4, sliding: 0.22 } as const;
/** Kept free for the words at the fill mark. */
const MARK_WORDS = 86;
/** A sieve bag that hangs beside. */
const BAG_WIDTH = 66;

interface Drawn {
  readonly shape: VesselShape;
  readonly scene: Scene;
  readonly colours: Palette;
  readonly paper: { readonly width: number; readonly height: number };
}

/** Where a spot is on the paper; the riser's top goes with it when it is drawn out or slid in. */
function at(name: Spot, { shape, scene, paper }: Omit<Drawn, "colours">): Point {
  const { x, y } = shape.spots[name];
  const raised =
    name === "riser-top" && (scene.riser === "pulled" || scene.riser === "sliding") ? RAISED[scene.riser] : 0;
  return placed({ x, y: y - raised * (shape.floor - shape.rim) }, shape, scene.stance, paper);
}

function Bead({ x, y, spent, colours }: Point & { readonly spent: boolean; readonly colours: Palette }) {
  return (
    <Circle
      cx={x}
      cy={y}
      r={0.42 * BEAD}
      fill={spent ? colours.taken : colours.free}
      stroke={colours.bead}
      strokeWidth={1.3}
    />
  );
}

/** The tube to the bottom, its slotted foot, and what closes its top. */
function Riser({ shape, scene, colours }: Drawn) {
  if (scene.riser === "none" || scene.riser === "out") return null;
  const lift = scene.riser === "pulled" || scene.riser === "sliding" ? RAISED[scene.riser] : 0;
  const long = shape.floor - shape.rim;
  const top = shape.rim - (scene.plug || lift > 0 || scene.head === "off" ? 12 : 0) - lift * long;
  const foot = shape.floor - 4 - lift * long;
  const half = Math.max(4.5, 0.1 * shape.body);
  return (
    <G>
      <Rect
        x={shape.middle - half}
        y={top}
        width={2 * half}
        height={foot - top}
        fill={colours.ice}
        stroke={colours.ink}
        strokeWidth={1.6}
      />
      {[0, 1, 2, 3].map((slot) => (
        <Line
          key={slot}
          x1={shape.middle - half}
          x2={shape.middle + half}
          y1={foot - 4 - 5 * slot}
          y2={foot - 4 - 5 * slot}
          stroke={colours.ink}
          strokeWidth={1.2}
        />
      ))}
      {scene.plug ? (
        <Rect x={shape.middle - half - 4} y={top - 10} width={2 * half + 8} height={13} rx={3} fill={colours.rowan} />
      ) : null}
      {lift > 0 ? (
        <Path
          d={`M${shape.middle + half + 10} ${top + 6}v${0.16 * long} ${scene.riser === "pulled" ? `m-5 ${-0.16 * long + 7}l5 -7l5 7` : "m-5 -7l5 7l5 -7"}`}
          fill="none"
          stroke={colours.ink}
          strokeWidth={2}
        />
      ) : null}
    </G>
  );
}

function Head({ shape, scene, colours }: Drawn) {
  if (scene.head === "off") return null;
  const raised = scene.head === "loose" ? -14 : 0;
  const port = 0.32 * shape.rim;
  return (
    <G transform={`translate(0 ${raised})`}>
      <Path d={shape.head} fill={colours.card} stroke={colours.ink} strokeWidth={2} />
      {scene.hoses === "connected" ? (
        <G>
          <Rect
            x={-26}
            y={0.45 * shape.rim - port}
            width={26 + shape.middle - shape.neck - 5}
            height={2 * port}
            fill={colours.card}
            stroke={colours.ink}
            strokeWidth={1.6}
          />
          <Rect
            x={shape.middle + shape.neck + 5}
            y={0.45 * shape.rim - port}
            width={shape.width - shape.middle - shape.neck + 21}
            height={2 * port}
            fill={colours.card}
            stroke={colours.ink}
            strokeWidth={1.6}
          />
        </G>
      ) : null}
      {scene.head === "loose" ? (
        <Path
          d={`M${shape.middle + 0.7 * shape.neck} ${-4}a${0.7 * shape.neck} 7 0 1 0 ${-1.4 * shape.neck} 0m-5 -6l5 7l7 -5`}
          fill="none"
          stroke={colours.ink}
          strokeWidth={2}
        />
      ) : null}
    </G>
  );
}

/** Threads at the neck, the seal plate under a bottle's cap. */
function Neck({ shape, colours, innerSeal }: Drawn & { readonly innerSeal: boolean }) {
  const lines = [0.3, 0.55, 0.8].map((share) => shape.rim + share * (shape.threadsEnd - shape.rim));
  return (
    <G>
      {lines.map((y) => (
        <G key={y}>
          <Line
            x1={shape.middle - shape.neck}
            x2={shape.middle - shape.neck + 7}
            y1={y}
            y2={y}
            stroke={colours.soft}
            strokeWidth={1.3}
          />
          <Line
            x1={shape.middle + shape.neck - 7}
            x2={shape.middle + shape.neck}
            y1={y}
            y2={y}
            stroke={colours.soft}
            strokeWidth={1.3}
          />
        </G>
      ))}
      {[-1, 1].map((side) => (
        <Circle
          key={side}
          cx={shape.middle + side * (shape.neck + 1)}
          cy={shape.rim + 3}
          r={3.4}
          fill={colours.frost}
          stroke={colours.ink}
          strokeWidth={1.2}
        />
      ))}
      {innerSeal ? (
        <Rect
          x={shape.middle - shape.neck + 2}
          y={shape.threadsEnd - 5}
          width={2 * shape.neck - 4}
          height={5}
          fill={colours.frost}
          stroke={colours.ink}
          strokeWidth={1}
        />
      ) : null}
    </G>
  );
}

/** Beads on their way in or out, and what they pass through. */
function Moving({ shape, scene, colours, paper }: Drawn) {
  const mouth = placed({ x: shape.middle, y: shape.rim }, shape, scene.stance, paper);
  if (scene.beadsGo === "in") {
    const x = scene.riser === "in" ? mouth.x + 0.5 * shape.neck + 4 : mouth.x;
    return (
      <G>
        <Path
          d={
            scene.tool === "scoop"
              ? `M${x - 4} ${mouth.y - 24}h30l8 -10M${x - 4} ${mouth.y - 24}q2 12 14 12h16v-12`
              : `M${x - 16} ${mouth.y - 34}h32l-11 16v12h-10v-12z`
          }
          fill={colours.card}
          stroke={colours.ink}
          strokeWidth={1.8}
        />
        {[0, 1, 2, 3, 4].map((i) => (
          <Bead key={i} x={x + (i % 2 ? 4 : -4)} y={mouth.y + 2 + 15 * i} spent={false} colours={colours} />
        ))}
      </G>
    );
  }
  if (scene.beadsGo !== "out") return null;
  // They fall into the sieve bag at the mouth: beside a lying vessel, under one turned over.
  const bag =
    scene.stance === "laid"
      ? { x: mouth.x + 2, y: paper.height - 56, w: 44, h: 52 }
      : scene.stance === "turned-over"
        ? { x: mouth.x - 36, y: mouth.y + 2, w: 72, h: paper.height - mouth.y - 6 }
        : { x: paper.width / 2 + shape.body + 12, y: paper.height - 64, w: 54, h: 60 };
  const rows = Math.max(1, Math.floor((bag.h - 16) / BEAD));
  return (
    <G>
      {Array.from({ length: rows }, (_, row) =>
        Array.from({ length: Math.floor((bag.w - 12) / BEAD) }, (_unused, i) => (
          <Bead
            key={`${row} ${i}`}
            x={bag.x + 11 + BEAD * i + (row % 2 ? 2 : -2)}
            y={bag.y + bag.h - 9 - 0.9 * BEAD * row}
            spent
            colours={colours}
          />
        )),
      )}
      <Path
        d={`M${bag.x} ${bag.y}q-3 ${0.6 * bag.h} 5 ${bag.h}h${bag.w - 10}q8 ${-0.4 * bag.h} 5 ${-bag.h}`}
        fill="none"
        stroke={colours.ink}
        strokeWidth={1.8}
        strokeDasharray="3 2.4"
      />
    </G>
  );
}

const arrow = (x: number, y: number, long: number) => `M${x} ${y}h${long}m-6 -5l6 5l-6 5`;

/** Loose parts, kept together. */
function Dish({ scene, colours, paper, shape }: Drawn) {
  if (scene.tool !== "dish") return null;
  const x = paper.width / 2 + shape.body + 44;
  const y = paper.height - 16;
  return (
    <G>
      <Path
        d={`M${x - 32} ${y - 10}q4 16 32 16q28 0 32 -16z`}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={1.8}
      />
      <Circle cx={x - 12} cy={y - 14} r={7} fill="none" stroke={colours.ink} strokeWidth={2.4} />
      <Rect
        x={x - 1}
        y={y - 24}
        width={18}
        height={13}
        rx={3}
        fill={colours.card}
        stroke={colours.ink}
        strokeWidth={1.6}
      />
    </G>
  );
}

/** What weighs: lifted from below. */
function Heavy({ scene, colours, paper, shape }: Drawn) {
  if (!scene.heavy) return null;
  const half = scene.stance === "laid" ? shape.height / 2 : shape.body;
  const y = scene.stance === "turned-over" ? paper.height / 2 : paper.height - 4;
  return (
    <G>
      {[-1, 1].map((side) => (
        <Path
          key={side}
          d={`M${paper.width / 2 + side * (half + 14)} ${y}v-26m-6 8l6 -8l6 8`}
          fill="none"
          stroke={colours.ink}
          strokeWidth={3}
        />
      ))}
      <SvgText
        x={scene.stance === "laid" ? 2 : paper.width / 2 - half - 6}
        y={y - 34}
        fontSize={13}
        fontWeight="700"
        textAnchor={scene.stance === "laid" ? "start" : "end"}
        fill={colours.ink}
      >
        heavy
      </SvgText>
    </G>
  );
}

/** Where the water goes: in by one port and out by the other, or only out while the pressure falls. */
function Water({ shape, scene, colours, paper, up }: Drawn & { readonly up: boolean }) {
  if (scene.stance !== "upright" || scene.waterGoes === "none") return null;
  const [inlet, outlet] = [at("inlet", { shape, scene, paper }), at("outlet", { shape, scene, paper })];
  const bottom = placed({ x: shape.middle, y: shape.floor }, shape, scene.stance, paper);
  const stroke = { fill: "none", stroke: colours.ink, strokeWidth: 2.2 } as const;
  const goesIn = scene.waterGoes === "through";
  if (scene.waterGoes === "out" && scene.hoses === "off") return null;
  if (scene.waterGoes === "in")
    return (
      <Path d={`M${inlet.x + shape.neck} ${inlet.y - 34}q3 18 0 30m-5 -7l5 7l5 -7`} {...stroke} stroke={colours.soft} />
    );
  if (scene.waterGoes === "drains")
    return <Path d={[0, 1, 2].map((i) => `M${bottom.x + 12 * (i - 1)} ${bottom.y + 1}v7`).join("")} {...stroke} />;
  return (
    <G>
      {goesIn ? <Path d={arrow(inlet.x - 48, inlet.y - 14, 26)} {...stroke} /> : null}
      {goesIn ? null : (
        <Path
          d={`M${inlet.x - 34} ${inlet.y - 9}l14 18m0 -18l-14 18`}
          stroke={colours.rowan}
          strokeWidth={2.6}
          fill="none"
        />
      )}
      <Path d={arrow(outlet.x + 24, outlet.y - 14, 26)} {...stroke} />
      {goesIn ? (
        <Path
          d={
            up
              ? `M${bottom.x + 0.55 * shape.body} ${bottom.y - 14}v${-0.5 * (shape.floor - shape.rim)}m-5 7l5 -7l5 7`
              : `M${bottom.x + 0.55 * shape.body} ${bottom.y - 0.75 * (shape.floor - shape.rim)}v${0.5 * (shape.floor - shape.rim)}m-5 -7l5 7l5 -7`
          }
          {...stroke}
          stroke={colours.card}
          strokeWidth={9}
        />
      ) : null}
      {goesIn ? (
        <Path
          d={
            up
              ? `M${bottom.x + 0.55 * shape.body} ${bottom.y - 14}v${-0.5 * (shape.floor - shape.rim)}m-5 7l5 -7l5 7`
              : `M${bottom.x + 0.55 * shape.body} ${bottom.y - 0.75 * (shape.floor - shape.rim)}v${0.5 * (shape.floor - shape.rim)}m-5 -7l5 7l5 -7`
          }
          {...stroke}
        />
      ) : null}
    </G>
  );
}

function FillMark({
  shape,
  scene,
  colours,
  paper,
  fillTo,
  words,
}: Drawn & { readonly fillTo: number; readonly words: string | undefined }) {
  if (!scene.mark || scene.stance !== "upright") return null;
  const { y } = placed({ x: 0, y: markAt(shape, fillTo) }, shape, scene.stance, paper);
  const left = paper.width / 2 - shape.body - 18;
  const right = paper.width / 2 + shape.body + 18;
  return (
    <G>
      <Line x1={left} x2={right} y1={y} y2={y} stroke={colours.ink} strokeWidth={2.4} strokeDasharray="3 3" />
      <SvgText x={right + 4} y={y - 4} fontSize={14} fontWeight="700" fill={colours.ink}>
        fill to here
      </SvgText>
      {words ? (
        <SvgText x={right + 4} y={y + 13} fontSize={12.5} fill={colours.soft}>
          {words}
        </SvgText>
      ) : null}
    </G>
  );
}

/** Others on the same stand, as outlines. */
function Beside({ shape, colours, paper, mount }: Drawn & { readonly mount: "stand" | "lead-lag" }) {
  const y = paper.height - shape.height;
  return (
    <G opacity={0.75}>
      {(mount === "stand" ? [-1, 1] : [1]).map((side) => (
        <G key={side} transform={`translate(${paper.width / 2 - shape.middle + side * (shape.width + 12)} ${y})`}>
          <Path d={shape.wall} fill="none" stroke={colours.frost} strokeWidth={2} />
          <Path d={shape.head} fill="none" stroke={colours.frost} strokeWidth={1.6} />
        </G>
      ))}
      <Line
        x1={paper.width / 2 - 1.7 * shape.width}
        x2={paper.width / 2 + 1.7 * shape.width}
        y1={paper.height - 2}
        y2={paper.height - 2}
        stroke={colours.frost}
        strokeWidth={3}
      />
    </G>
  );
}

/** Height on paper: a lying vessel is as long as there is room. */
function heightOf({ width, height, scene }: Pick<VesselDrawingProps, "width" | "height" | "scene">): number {
  if (scene.stance === "laid") return Math.min(width - 70, 1.6 * height);
  if (scene.stance === "turned-over") return height - BELOW - 76;
  // A riser that is drawn out or slid in stands far above the rim.
  if (scene.riser === "pulled" || scene.riser === "sliding") return (height - BELOW - 24) / (1 + RAISED[scene.riser]);
  return height - ABOVE - BELOW;
}

/** A vessel as it should look at the end of a step, drawn from its own sizes. */
export const VesselDrawing = memo(function VesselDrawing(props: VesselDrawingProps) {
  const { scene, kind, size, fillTo, mount, width, height, label, markWords } = props;
  const colours = usePalette();
  const clip = useId();
  if (scene.of === "housing") return <HousingDrawing scene={scene} width={width} height={height} label={label} />;
  const shape = vesselShape(kind, size, heightOf(props));
  const beside = scene.mark ? MARK_WORDS : scene.beadsGo === "out" && scene.stance === "upright" ? BAG_WIDTH : 0;
  const paper = { width: width - beside, height: height - BELOW };
  const drawn = { shape, scene, colours, paper };
  const stands = transformOf(shape, scene.stance, paper);
  const beads = scene.beads
    ? beadsIn(shape, scene.stance, paper, scene.beads.level, kind === "cartridge" ? 0.97 : fillTo, BEAD)
    : [];
  // Only what stands upright has fresh beads on spent ones.
  const freshFrom = placed({ x: 0, y: markAt(shape, (scene.beads?.spentTo ?? 0) * fillTo) }, shape, "upright", paper).y;
  const surface = placed(
    { x: 0, y: shape.floor - scene.water * (shape.floor - shape.threadsEnd) },
    shape,
    "upright",
    paper,
  ).y;
  return (
    <Svg width={width} height={height} role="img" aria-label={label} testID="drawing" data-stance={scene.stance}>
      <Defs>
        <ClipPath id={clip}>
          <Path d={shape.inside} transform={stands} />
        </ClipPath>
      </Defs>
      {mount !== "alone" && scene.stance === "upright" && scene.head === "on" ? (
        <Beside {...drawn} mount={mount} />
      ) : null}
      <Path d={shape.inside} transform={stands} fill={colours.card} />
      {scene.water > 0 && scene.stance === "upright" ? (
        <Rect
          x={0}
          y={surface}
          width={width}
          height={height}
          fill={colours.ice}
          opacity={0.8}
          clipPath={`url(#${clip})`}
        />
      ) : null}
      {beads.map(({ x, y }) => (
        <Bead key={`${x} ${y}`} x={x} y={y} spent={scene.beads!.are === "spent" || y > freshFrom} colours={colours} />
      ))}
      <G transform={stands}>
        <Riser {...drawn} />
        <Path d={shape.wall} fill="none" stroke={colours.ink} strokeWidth={2.6} />
        <Neck {...drawn} innerSeal={kind === "inner-seal-bottle" && scene.head !== "off"} />
        <Head {...drawn} />
      </G>
      {scene.stance === "laid" || scene.stance === "turned-over" ? null : (
        <Line
          x1={paper.width / 2 - shape.body - 30}
          x2={paper.width / 2 + shape.body + 30}
          y1={paper.height - 2}
          y2={paper.height - 2}
          stroke={colours.ink}
          strokeWidth={2}
        />
      )}
      <Moving {...drawn} />
      <Dish {...drawn} />
      <Heavy {...drawn} />
      <Water {...drawn} up={kind === "cartridge"} />
      <FillMark {...drawn} fillTo={kind === "cartridge" ? 0.97 : fillTo} words={markWords} />
      <Marks
        looks={scene.look.map((spot) => at(spot, drawn))}
        crosses={scene.noBeads.map((spot) => at(spot, drawn))}
        colours={colours}
      />
    </Svg>
  );
});
