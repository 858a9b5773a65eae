import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";

/** What the water comes out of. */
export type Tool = "brush" | "lance" | "aquarium";

/** L/min that a tool needs and can use; more is waste. Trade practice. */
export const TOOL_FLOWS: Readonly<Record<Tool, { readonly from: number; readonly to: number }>> = {
  brush: { from: 1.5, to: 4 },
  lance: { from: 4, to: 8 },
  aquarium: { from: 0.1, to: 0.4 },
};

/** Flow of a timed bucket, L/min. @example bucketFlow({ litres: 10, seconds: 150 }) // 4 */
export function bucketFlow(test: { readonly litres: number; readonly seconds: number }): Result<number> {
  const checked = checkRanges(test, {
    litres: { ...RANGES.litres, above: 0, name: "The bucket" },
    seconds: { ...RANGES.seconds, above: 0, name: "The time to fill it" },
  });
  return checked.ok ? finite((60 * test.litres) / test.seconds) : checked;
}

/** Where the jets land, seen with the brush held as it works. */
export type Reach = "among" | "past" | "far-past";

export interface FlowJudgement {
  readonly state: "too-little" | "fits" | "too-much";
  /** L/min to aim at. */
  readonly aim: number;
  /** Share of the water that the lower flow would save, for the same time. */
  readonly saves: number;
}

/** Jets that land past the bristles want about this share less; a planning assumption. */
const PAST = { past: 0.15, "far-past": 0.3 } as const;

/**
 * Whether a flow suits its tool, and what turning it down would save. Jets that carry past the bristles are waste whatever
 * the figure says.
 *
 * @example judgeFlow("brush", 5, "past") // { state: "too-much", aim: 4, saves: 0.2 }
 */
export function judgeFlow(tool: Tool, flow: number, reach: Reach = "among"): FlowJudgement {
  const { from, to } = TOOL_FLOWS[tool];
  if (flow < from) return { state: "too-little", aim: from, saves: 0 };
  const seen = reach === "among" ? flow : Math.max(from, flow * (1 - PAST[reach]));
  const aim = Math.min(to, seen);
  return aim < flow ? { state: "too-much", aim, saves: 1 - aim / flow } : { state: "fits", aim: flow, saves: 0 };
}
