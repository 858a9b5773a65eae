import type { FeedTest } from "../feed/feed-test.record";
import type { Visit } from "../rig/visit.record";

export interface WeatherFacts {
  readonly visits: readonly Visit[];
  readonly feedTests: readonly FeedTest[];
}

const DAY = 86_400_000;
const RECENT_DAYS = 21;
/** °C of a tap below which nights are cold enough for frost, and above which a closed vehicle bakes: planning assumptions. */
const COLD = 7;
const WARM = 22;

/** Temperatures of the last weeks, °C. */
function recentTemperatures({ visits, feedTests }: WeatherFacts, now: number): readonly number[] {
  const isRecent = (at: string) => now - Date.parse(at) < RECENT_DAYS * DAY;
  return [
    ...visits
      .filter(({ at }) => isRecent(at))
      .flatMap(({ readings }) => readings.flatMap(({ temperature = [] }) => temperature)),
    ...feedTests.filter(({ at }) => isRecent(at)).flatMap(({ temperature = [] }) => temperature),
  ];
}

/**
 * What cold or warm weeks ask for, as the water's own temperature tells of the weather.
 * @returns sentences; none where nobody read a temperature lately, or the weeks are mild
 */
export function frostAndSun(facts: WeatherFacts, now: number): readonly string[] {
  const read = recentTemperatures(facts, now);
  if (read.length === 0) return [];
  return [
    ...(Math.min(...read) <= COLD
      ? [
          "The water is cold enough for frost at night: bring wet vessels and resin indoors, or drain them and keep the beads moist; never let wet resin freeze.",
        ]
      : []),
    ...(Math.max(...read) >= WARM
      ? [
          "The water is warm: a parked vehicle passes 40 °C, which ages resin; keep it in the shade, never leave a full vessel capped at both ends in the sun, and flush what stood.",
        ]
      : []),
  ];
}
