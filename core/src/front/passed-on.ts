import { firstFrom } from "../numerics/search";
import { TABLE_LOW, TABLE_POINTS, TABLE_STEP, throughputOf, type FrontTable } from "./front-table";

const grid = Float64Array.from({ length: TABLE_POINTS }, (_, point) => throughputOf(point));
const END = TABLE_POINTS - 1;

const known = new WeakMap<FrontTable, Float64Array>();

/** What a front has let through by each throughput of the grid: the area under it, by the trapezoid rule. */
function areaOf(front: FrontTable): Float64Array {
  const before = known.get(front);
  if (before) return before;
  const area = new Float64Array(front.length);
  area[0] = grid[0]! * front[0]!;
  for (let i = 1; i < front.length; i += 1)
    area[i] = area[i - 1]! + ((grid[i]! - grid[i - 1]!) * (front[i]! + front[i - 1]!)) / 2;
  known.set(front, area);
  return area;
}

/**
 * What a bed lets through as a whole, and when: the bed behind it is loaded by that.
 * @example new PassedOn(front, 0.01).by(1) // share of its capacity that has gone through by T = 1
 */
export class PassedOn {
  private readonly area: Float64Array;
  private readonly slope: number;

  /** @param bypass share of the water that goes round the beads */
  constructor(
    front: FrontTable,
    private readonly bypass: number,
  ) {
    this.area = areaOf(front);
    this.slope = bypass + (1 - bypass) * front[END]!;
  }

  private at = (point: number) => this.bypass * grid[point]! + (1 - this.bypass) * this.area[point]!;

  /** Let through by a throughput, as a share of the bed's capacity. */
  by(throughput: number): number {
    if (throughput <= grid[0]!) return (throughput / grid[0]!) * this.at(0);
    if (throughput >= grid[END]!) return this.at(END) + (throughput - grid[END]!) * this.slope;
    const point = Math.min(END - 1, Math.floor((Math.log(throughput) - TABLE_LOW) / TABLE_STEP));
    const part = (throughput - grid[point]!) / (grid[point + 1]! - grid[point]!);
    return this.at(point) + part * (this.at(point + 1) - this.at(point));
  }

  /** Throughput by which so much is let through; endless where nothing ever is. */
  until(passed: number): number {
    const end = this.at(END);
    if (passed >= end) return this.slope > 0 ? grid[END]! + (passed - end) / this.slope : Infinity;
    const point = firstFrom(TABLE_POINTS, (each) => this.at(each) >= passed);
    if (point === 0) return (passed / this.at(0)) * grid[0]!;
    const [low, high] = [this.at(point - 1), this.at(point)];
    return grid[point - 1]! + ((passed - low) / (high - low)) * (grid[point]! - grid[point - 1]!);
  }
}
