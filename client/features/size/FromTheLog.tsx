import { loggedDemand } from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import { PlainButton } from "../../ui/boxes";
import { localDate, toShown } from "../../ui/format";
import { useRigFacts } from "../rack/useRigs";
import { loggedDays } from "./rig-log";
import type { Work } from "./useWork";

/** Offers what each rig of this use has logged as the demand. */
export function FromTheLog({ work }: { readonly work: Work }) {
  const { typed, patch, units } = work;
  const { facts } = useRigFacts();
  const logged = useMemo(
    () =>
      facts
        .filter(({ rig }) => rig.use === typed.use)
        .flatMap((each) => {
          const demand = loggedDemand(loggedDays(each), localDate(each.now));
          return demand ? [{ rig: each.rig, demand }] : [];
        }),
    [facts, typed.use],
  );
  return logged.map(({ rig, demand }) => (
    <PlainButton
      key={rig.id}
      testID="from-the-log"
      onPress={() =>
        patch({
          items: [
            {
              key: `log-${rig.id}`,
              by: "total",
              name: `${rig.name}, as logged`,
              quality: demand.quality,
              figures: {
                litresPerWeek: String(Number(toShown("volume", demand.litresPerWeek, units).toPrecision(4))),
              },
            },
          ],
          ...(demand.season
            ? { season: "own" as const, months: demand.season.map((share) => String(Math.round(100 * share))) }
            : {}),
        })
      }
    >{`Take what ${rig.name} logged in ${Math.round(demand.weeks)} weeks`}</PlainButton>
  ));
}
