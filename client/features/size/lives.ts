import { ionFeed, twoLives, type ThreeOf, type TwoLives } from "@winter-bead/core";
import { lifeInput, type LitresQuestion } from "./litres";

/** Both lives for the lowest, the typical and the highest feed; the highest feed gives the low life. */
export interface LivesRange {
  readonly untilLeak: ThreeOf<number>;
  /** Absent when the meter never shows it within four times the stoichiometric litres. */
  readonly untilMeter?: ThreeOf<number>;
  readonly leaksFirst: TwoLives["leaksFirst"];
  /** Parts of the water that a usual mix stands in for. */
  readonly assumed: boolean;
}

/** Whether enough is known of what a meter doesn't see for the two lives to differ. */
export const tellsUnseen = ({ ph, alkalinity, silica }: LitresQuestion) =>
  (ph !== undefined && alkalinity !== undefined) || (silica !== undefined && silica > 0);

const FEED_OF = { low: "high", typical: "typical", high: "low" } as const;
const BATCH_OF = { low: "weak", typical: "usual", high: "strong" } as const;

/** Until anything leaks and until the meter shows it, by the column simulation; tens of milliseconds, so in a worker. */
export function answerLives(question: LitresQuestion): LivesRange | undefined {
  const found: Partial<Record<keyof ThreeOf<number>, TwoLives>> = {};
  let assumed = false;
  for (const key of ["low", "typical", "high"] as const) {
    const {
      water,
      capacity,
      bed,
      limit,
      storage = 1,
      packing = 1,
    } = lifeInput(question, question.feed[FEED_OF[key]], BATCH_OF[key]);
    const feed = ionFeed(water);
    if (!feed.ok) return undefined;
    const lives = twoLives({ feed: feed.value.feed, capacity, bed, limit, factor: storage * packing });
    if (!lives.ok) return undefined;
    found[key] = lives.value;
    assumed = feed.value.assumed.length > 0;
  }
  const { low, typical, high } = found as ThreeOf<TwoLives>;
  const meters = [low, typical, high].map((lives) => lives.untilMeter);
  const [a, b, c] = meters;
  return {
    untilLeak: { low: low.untilLeak, typical: typical.untilLeak, high: high.untilLeak },
    ...(a === undefined || b === undefined || c === undefined ? {} : { untilMeter: { low: a, typical: b, high: c } }),
    leaksFirst: typical.leaksFirst,
    assumed,
  };
}
