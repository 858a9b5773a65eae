import { View } from "@tamagui/core";
import { GUIDED } from "@winter-bead/core";
import { worksOf } from "@winter-bead/core/src/refill/work";
import { useMemo } from "react";
import { useRecords } from "../../data/store";
import { Going, Pressable } from "../../ui/boxes";

/** Guided work that was begun, on any phone, and is not ended: one tap goes on with it. */
export function OpenWorkLine() {
  const { records } = useRecords("refill-steps");
  const { records: rigs } = useRecords("rigs");
  const open = useMemo(() => worksOf(records).filter(({ ended }) => ended === undefined), [records]);
  return (
    <View>
      {open.map(({ id, guided, rigId, vesselId }) => (
        <Pressable
          key={id}
          href={`/refill?rig=${rigId}&what=${guided}${vesselId ? `&vessel=${vesselId}` : ""}`}
          alignItems="flex-start"
          testID="work-under-way"
        >
          <Going>
            {`${rigs.find((rig) => rig.id === rigId)?.name ?? "A rig"}, ${GUIDED.of[guided].toLowerCase()}: go on`}
          </Going>
        </Pressable>
      ))}
    </View>
  );
}
