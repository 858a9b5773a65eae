import { router, useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { EmptyState, HeavyButton } from "../../ui/boxes";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import { MembraneScreen } from "./MembraneScreen";
import { ReportForm } from "./ReportForm";

const Waiting = () => <Body role="status">One moment…</Body>;

/** The report form of the tap in the address. */
export function ReportPlace() {
  const { tap } = useLocalSearchParams<{ tap?: string }>();
  const { records, pending } = useRecords("taps");
  const found = records.find((each) => each.id === tap) ?? records[0];
  if (found) return <ReportForm key={found.id} tap={found} />;
  return (
    <Screen title="Water report">
      {pending ? (
        <Waiting />
      ) : (
        <EmptyState
          title="A report belongs to a tap"
          action={<HeavyButton onPress={() => router.push("/setup/tap")}>Add the first tap</HeavyButton>}
        >
          Name the tap first; then its report can be entered or fetched.
        </EmptyState>
      )}
    </Screen>
  );
}

/** The membrane of the rig in the address, or of the first that has one. */
export function MembranePlace() {
  const { rig } = useLocalSearchParams<{ rig?: string }>();
  const { records, pending } = useRecords("rigs");
  const rigs = records.filter((each) => each.stages.some((stage) => stage.kind === "membrane"));
  const found = rigs.find((each) => each.id === rig) ?? rigs[0];
  if (found) return <MembraneScreen key={found.id} rig={found} rigs={rigs} />;
  return (
    <Screen title="Membrane">
      {pending ? (
        <Waiting />
      ) : (
        <EmptyState
          title="No rig with a membrane yet"
          action={<HeavyButton onPress={() => router.push("/setup/rig")}>Add a rig</HeavyButton>}
        >
          Add a rig with reverse osmosis; then its rejection, flow and wear are followed here.
        </EmptyState>
      )}
    </Screen>
  );
}
