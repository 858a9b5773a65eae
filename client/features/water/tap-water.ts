import {
  describeReport,
  tapRange,
  recordedEc25,
  tapValues,
  type FeedTest,
  type Id,
  type Meter,
  type ReportAnswer,
  type ReportValues,
  type Tap,
  type TapRange,
  type TapReading,
  type Visit,
  type WaterReport,
} from "@winter-bead/core";

/** Everything known about the water of one tap. */
export interface TapWater {
  readonly tap: Tap;
  /** Oldest first. */
  readonly readings: readonly DatedReading[];
  readonly range: TapRange | undefined;
  /** Newest last. */
  readonly reports: readonly WaterReport[];
  /** Figures of the newest report, what the tap itself says filling the gaps. */
  readonly values: ReportValues | undefined;
  readonly described: ReportAnswer | undefined;
}

/** A reading of a tap with the record that it stands in. */
export interface DatedReading extends TapReading {
  readonly of: "feed-tests" | "visits";
  readonly id: Id;
}

export interface TapFacts {
  readonly visits: readonly Visit[];
  readonly tests: readonly FeedTest[];
  readonly reports: readonly WaterReport[];
  readonly meters: ReadonlyMap<Id, Meter>;
}

/** Feed readings of a tap, from tests and from visits, oldest first. */
export function tapReadings(tapId: Id, { visits, tests, meters }: TapFacts): DatedReading[] {
  const found: DatedReading[] = [];
  const add = (of: DatedReading["of"], { id, at }: Visit | FeedTest, ec25: number | undefined) => {
    if (ec25 !== undefined && ec25 > 0) found.push({ of, id, at: Date.parse(at), ec25 });
  };
  for (const test of tests) if (test.tapId === tapId) add("feed-tests", test, recordedEc25(test, meters));
  for (const visit of visits) {
    if (visit.tapId !== tapId) continue;
    for (const reading of visit.readings)
      if (reading.point === "feed") add("visits", visit, recordedEc25(reading, meters));
  }
  return found.sort((a, b) => a.at - b.at);
}

export function tapWater(tap: Tap, facts: TapFacts): TapWater {
  const readings = tapReadings(tap.id, facts);
  const found = tapRange(readings);
  const range = found.ok ? found.value : undefined;
  const reports = facts.reports
    .filter((report) => report.tapId === tap.id)
    .sort((a, b) => (a.sampledOn < b.sampledOn ? -1 : 1));
  const values = tapValues(tap, reports);
  const described = describeReport(values);
  return { tap, readings, range, reports, values, described: described.ok ? described.value : undefined };
}

export type Hardness = "low" | "usual" | "high";

/** Conductivity bounds of a usual piped supply, µS/cm: planning words for a newcomer. */
const USUAL_SUPPLY = { low: 150, high: 500 } as const;

/** Whether a feed is low, usual or high for a piped supply. */
export const feedWords = (ec25: number): Hardness =>
  ec25 < USUAL_SUPPLY.low ? "low" : ec25 > USUAL_SUPPLY.high ? "high" : "usual";
