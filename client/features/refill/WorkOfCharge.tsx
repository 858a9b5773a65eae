import { View } from "@tamagui/core";
import type { Charge } from "@winter-bead/core";
import { worksOf } from "@winter-bead/core/src/refill/work";
import { useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";

/** The way to the steps by which a charge was filled, where it was guided. */
export function WorkOfCharge({ charge }: { readonly charge: Charge }) {
  const { records } = useRecords("refill-steps");
  const at = Date.parse(charge.filledAt);
  const work = worksOf(records).find(
    ({ vesselId, startedAt, lastAt, ended }) =>
      vesselId === charge.vesselId && ended === "finished" && Date.parse(startedAt) <= at && at <= Date.parse(lastAt),
  );
  return work ? (
    <View>
      <TextButton href={`/refill/work?id=${work.id}`} testID="work-of-charge">
        How it was filled, step by step
      </TextButton>
    </View>
  ) : null;
}
