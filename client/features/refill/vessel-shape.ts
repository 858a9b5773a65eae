import type { VesselKind } from "@winter-bead/core";
import { insideHeight, type Spot } from "@winter-bead/core/src/refill";

export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A vessel's outline on paper, in its own coordinates: upright, y down. */
export interface VesselShape {
  readonly width: number;
  readonly height: number;
  /** Half the inside of the neck, and of the body. */
  readonly neck: number;
  readonly body: number;
  readonly middle: number;
  /** Top of the neck, end of the threads, top of the straight body, bottom inside. */
  readonly rim: number;
  readonly threadsEnd: number;
  readonly shoulder: number;
  readonly floor: number;
  readonly wall: string;
  /** The same, closed at the top: what holds beads and water. */
  readonly inside: string;
  readonly head: string;
  readonly spots: Readonly<Record<Spot, Point>>;
}

interface Proportions {
  /** Width of the neck beside that of the body, and its height and the shoulder's beside the whole. */
  readonly neck: number;
  readonly neckHigh: number;
  readonly shoulder: number;
  readonly headHigh: number;
}

const PROPORTIONS: Readonly<Record<VesselKind, Proportions>> = {
  "screw-head-tank": { neck: 0.52, neckHigh: 0.09, shoulder: 0.13, headHigh: 0.09 },
  "inner-seal-bottle": { neck: 0.5, neckHigh: 0.12, shoulder: 0.11, headHigh: 0.08 },
  "floated-tank": { neck: 0.44, neckHigh: 0.07, shoulder: 0.17, headHigh: 0.1 },
  cartridge: { neck: 1, neckHigh: 0.06, shoulder: 0, headHigh: 0.07 },
};

const SLIMMEST = 0.26;
const WIDEST = 0.62;

/**
 * A vessel of a kind, drawn from its own sizes within what stays readable.
 * @param height on paper, head included
 */
export function vesselShape(
  kind: VesselKind,
  size: { readonly grossVolume: number; readonly diameter: number },
  height: number,
): VesselShape {
  const { neck: neckShare, neckHigh, shoulder: shoulderHigh, headHigh } = PROPORTIONS[kind];
  const slim = kind === "cartridge" ? 0.2 : SLIMMEST;
  const proportion = Math.min(WIDEST, Math.max(slim, size.diameter / insideHeight(size)));
  const head = headHigh * height;
  const rim = head;
  const inner = height - head - 4;
  const width = Math.round(inner * proportion);
  const middle = width / 2;
  const body = middle - 2;
  const neck = body * neckShare;
  const threadsEnd = rim + neckHigh * inner;
  const shoulder = threadsEnd + shoulderHigh * inner;
  const floor = height - 4;
  const round = kind === "cartridge" ? 4 : Math.min(18, body / 2);
  const half = (side: 1 | -1) => {
    const at = (dx: number) => (middle + side * dx).toFixed(1);
    return { neck: at(neck), body: at(body), foot: at(body - round) };
  };
  const [left, right] = [half(-1), half(1)];
  const line =
    `M${left.neck} ${rim}V${threadsEnd}` +
    (shoulderHigh > 0 ? `Q${left.body} ${threadsEnd} ${left.body} ${shoulder}` : "") +
    `V${floor - round}Q${left.body} ${floor} ${left.foot} ${floor}H${right.foot}Q${right.body} ${floor} ${right.body} ${floor - round}` +
    `V${shoulder}` +
    (shoulderHigh > 0 ? `Q${right.body} ${threadsEnd} ${right.neck} ${threadsEnd}` : "") +
    `V${rim}`;
  const over = neck + 5;
  return {
    ...{ width, height, neck, body, middle, rim, threadsEnd, shoulder, floor },
    wall: line,
    inside: `${line}Z`,
    head: `M${middle - over} ${rim + 0.6 * (threadsEnd - rim)}V${0.45 * head}Q${middle - over} 2 ${middle - over + 6} 2H${middle + over - 6}Q${middle + over} 2 ${middle + over} ${0.45 * head}V${rim + 0.6 * (threadsEnd - rim)}Z`,
    spots: {
      thread: { x: middle + neck, y: (rim + threadsEnd) / 2 },
      seat: { x: middle - neck, y: rim },
      seal: { x: middle + neck, y: rim },
      "inner-seal": { x: middle + 0.6 * neck, y: threadsEnd },
      "riser-top": { x: middle, y: rim - 6 },
      "riser-foot": { x: middle, y: floor - 8 },
      rim: { x: middle + neck, y: rim },
      base: { x: middle, y: floor },
      inlet: { x: middle - over, y: 0.6 * head },
      outlet: { x: middle + over, y: 0.6 * head },
      "bottom-gap": { x: middle + 0.5 * body, y: floor - 5 },
      "flat-seals": { x: middle, y: shoulder },
      "o-ring": { x: middle + neck, y: rim },
    },
  };
}

/** Where the fill mark stands, on the paper's y, for a share of the inside. */
export const markAt = ({ rim, floor }: VesselShape, fillTo: number): number => floor - fillTo * (floor - rim);

export type Stance = "upright" | "laid" | "turned-over";

/** A point of the vessel where it stands, lies or is turned over, on a paper of a width and a height. */
export function placed(
  { x, y }: Point,
  shape: VesselShape,
  stance: Stance,
  paper: { width: number; height: number },
): Point {
  const [cx, cy] = [paper.width / 2, paper.height / 2];
  const [dx, dy] = [x - shape.middle, y - shape.height / 2];
  if (stance === "upright") return { x: cx + dx, y: paper.height - shape.height + y };
  // Lying, its mouth to the right, on the ground; turned over, its mouth down.
  if (stance === "laid") return { x: cx - dy, y: paper.height - shape.width / 2 - 4 + dx };
  return { x: cx - dx, y: cy - dy };
}

export const turnOf = (stance: Stance): number => (stance === "upright" ? 0 : stance === "laid" ? 90 : 180);

/** The same as an SVG transform. */
export function transformOf(shape: VesselShape, stance: Stance, paper: { width: number; height: number }): string {
  const origin = placed({ x: shape.middle, y: shape.height / 2 }, shape, stance, paper);
  return `translate(${origin.x} ${origin.y}) rotate(${turnOf(stance)}) translate(${-shape.middle} ${-shape.height / 2})`;
}
