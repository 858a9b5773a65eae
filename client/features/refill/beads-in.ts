import { markAt, placed, type Point, type Stance, type VesselShape } from "./vessel-shape";

type Paper = { readonly width: number; readonly height: number };

/** The other way: a point of the paper in the vessel's own coordinates. */
function inVessel({ x, y }: Point, shape: VesselShape, stance: Stance, paper: Paper): Point {
  const origin = placed({ x: shape.middle, y: shape.height / 2 }, shape, stance, paper);
  const [dx, dy] = [x - origin.x, y - origin.y];
  if (stance === "upright") return { x: shape.middle + dx, y: shape.height / 2 + dy };
  if (stance === "laid") return { x: shape.middle + dy, y: shape.height / 2 - dx };
  return { x: shape.middle - dx, y: shape.height / 2 - dy };
}

/** Half the inside at a height. */
function halfAt({ threadsEnd, shoulder, neck, body }: VesselShape, y: number): number {
  if (y < threadsEnd) return neck;
  if (y >= shoulder) return body;
  return neck + (body - neck) * Math.sqrt((y - threadsEnd) / (shoulder - threadsEnd));
}

/**
 * Beads as they lie in a vessel, wherever its bottom is: in staggered rows from the lowest point up to their level.
 *
 * @param level share of the fill mark
 * @param fillTo share of the inside at the mark
 * @param bead their diameter on paper
 */
export function beadsIn(
  shape: VesselShape,
  stance: Stance,
  paper: Paper,
  level: number,
  fillTo: number,
  bead: number,
): readonly Point[] {
  const foot = placed({ x: shape.middle, y: shape.floor }, shape, stance, paper);
  const mouth = placed({ x: shape.middle, y: shape.rim }, shape, stance, paper);
  const lying = stance === "laid";
  const bottom = lying ? foot.y + shape.body : Math.max(foot.y, mouth.y);
  const deep = lying ? 2 * shape.body * level : level * (shape.floor - markAt(shape, fillTo));
  const across = lying ? shape.floor - shape.rim : 2 * shape.body;
  const middle = (lying ? (foot.x + mouth.x) / 2 : foot.x) - across / 2;
  const columns = Math.floor(across / bead - 0.5);
  const dx = across / (columns + 0.5);
  const dy = 0.9 * bead;
  const points: Point[] = [];
  for (let row = 0; (row + 0.5) * dy <= deep; row += 1)
    for (let column = 0; column < columns; column += 1) {
      const point = { x: middle + dx * (column + 0.5 + (row % 2 ? 0.5 : 0)), y: bottom - dy * (row + 0.5) - 1 };
      const own = inVessel(point, shape, stance, paper);
      const inside =
        own.y > shape.rim &&
        own.y < shape.floor - 0.35 * bead &&
        Math.abs(own.x - shape.middle) < halfAt(shape, own.y) - 0.4 * bead;
      if (inside) points.push(point);
    }
  return points;
}
