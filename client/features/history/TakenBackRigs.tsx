import { View } from "@tamagui/core";
import { useQuery } from "@tanstack/react-query";
import { bodyOf } from "../../data/acts";
import { fetchRecord, type Kept } from "../../data/api";
import { change, useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";
import { capital } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Heading, Small, Strong } from "../../ui/words";
import { LooseVisits } from "./LooseVisits";

/** The visits of one rig that was taken back, and the way to bring it back. */
function TakenBack({ rigId, visits }: { readonly rigId: string; readonly visits: readonly Kept<"visits">[] }) {
  const { data: rig } = useQuery({
    queryKey: ["taken-back", rigId],
    queryFn: ({ signal }) => fetchRecord("rigs", rigId, signal),
  });
  const name = rig?.name ?? "a rig";
  const bringBack = async (known: Kept<"rigs">) => {
    const { undo } = await change("rigs", known, bodyOf(known));
    showToast({ words: `${known.name} is back.`, undo });
  };
  return (
    <View gap="$2" testID="taken-back-rig">
      <Strong>{`${capital(name)}, taken back`}</Strong>
      <Small>Logged before that was known where it was logged. They are kept, and count in no other rig.</Small>
      {rig?.voided ? <TextButton onPress={() => void bringBack(rig)}>{`Bring ${rig.name} back`}</TextButton> : null}
      <LooseVisits label={`Visits of ${name}, taken back`} visits={visits} />
    </View>
  );
}

/** Visits of rigs that are no more: nothing that was logged is out of sight. */
export function TakenBackRigs() {
  const { records: rigs, pending } = useRecords("rigs");
  const { records: visits } = useRecords("visits");
  if (pending) return null;
  const known = new Set(rigs.map(({ id }) => id));
  const lost = visits.filter(({ rigId }) => !known.has(rigId)).sort((a, b) => (a.at < b.at ? 1 : -1));
  const ids = [...new Set(lost.map(({ rigId }) => rigId))];
  if (ids.length === 0) return null;
  return (
    <View gap="$3" paddingTop="$4">
      <Heading>Logged on what was taken back</Heading>
      {ids.map((rigId) => (
        <TakenBack key={rigId} rigId={rigId} visits={lost.filter((visit) => visit.rigId === rigId)} />
      ))}
    </View>
  );
}
