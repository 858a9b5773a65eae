import { diagnose, type Cause, type Observations, type Suspect } from "../diagnosis/diagnosis";
import type { Standing } from "./standing";

/** What may stand behind a product that the count does not explain. */
const AMONG: readonly Cause[] = [
  "exhausted",
  "rinse-up",
  "bypass",
  "channelling",
  "wrong-resin",
  "feed-jump",
  "meter-fault",
];
/** Of the capacity: from here on it is nearly used, and up to here it was just refilled. */
const NEARLY_USED = 0.9;
const JUST_REFILLED = 0.05;
/** Of the feed: from here on a product is close to it. */
const NEAR_FEED = 0.8;

/** What a standing itself tells of a bad reading. */
function seenIn({ promisedShare, rise, groups, feed }: Standing): Observations {
  const last = groups[groups.length - 1];
  return {
    "nearly-used": promisedShare >= NEARLY_USED,
    "just-refilled": promisedShare <= JUST_REFILLED,
    ...(rise ? { "rising-over-days": true } : {}),
    ...(last ? { "near-feed": last.ec25 >= NEAR_FEED * feed.typical } : {}),
  };
}

/**
 * What may be behind readings at or above a mark that the count does not explain, likeliest first.
 * @example likelyCauses(where)[0].name // "Water goes round the beads: a bypass or a seal"
 */
export const likelyCauses = (where: Standing): readonly Suspect[] => diagnose(seenIn(where), AMONG);
