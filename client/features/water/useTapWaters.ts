import { asOfNow } from "@winter-bead/core";
import { useMemo } from "react";
import { useNow } from "../../data/present";
import { useRecords } from "../../data/store";
import { tapWater, type TapWater } from "./tap-water";

/**
 * The water of every tap in use, from all that was read and reported of it; pending until all of that is here.
 * `all` has those that are retired too.
 */
export function useTapWaters(): {
  readonly waters: readonly TapWater[];
  readonly all: readonly TapWater[];
  readonly pending: boolean;
} {
  const taps = useRecords("taps");
  const visits = useRecords("visits");
  const tests = useRecords("feed-tests");
  const reports = useRecords("water-reports");
  const meters = useRecords("meters");
  const now = useNow();
  const all = useMemo(() => {
    const facts = {
      visits: asOfNow(visits.records, now),
      tests: asOfNow(tests.records, now),
      reports: reports.records,
      meters: new Map(meters.records.map((meter) => [meter.id, meter])),
    };
    return taps.records.map((tap) => tapWater(tap, facts));
  }, [taps.records, visits.records, tests.records, reports.records, meters.records, now]);
  const waters = useMemo(() => all.filter(({ tap }) => tap.retiredOn === undefined), [all]);
  return { waters, all, pending: [taps, visits, tests, reports, meters].some(({ pending }) => pending) };
}
