import type { Rig, UnseenLoad } from "@winter-bead/core";
import { useMemo } from "react";
import { useRecords } from "../../data/store";
import { unseenOf } from "./unseen-load";

/** What reaches a rig's resin unseen, from its usual tap and that tap's newest report. */
export function useUnseenLoad(rig: Rig | undefined): UnseenLoad | undefined {
  const { records: taps } = useRecords("taps");
  const { records: reports } = useRecords("water-reports");
  return useMemo(() => {
    if (!rig) return undefined;
    const newest = reports
      .filter((report) => report.tapId === rig.tapId)
      .reduce<(typeof reports)[number] | undefined>(
        (best, each) => (!best || each.sampledOn > best.sampledOn ? each : best),
        undefined,
      );
    return unseenOf(
      rig,
      taps.find((tap) => tap.id === rig.tapId),
      newest?.values,
    );
  }, [rig, taps, reports]);
}
