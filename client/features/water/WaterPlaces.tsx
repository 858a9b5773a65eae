import { useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { useNamed } from "../../forms/useNamed";
import { EmptyState, HeavyButton } from "../../ui/boxes";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import { MembraneScreen } from "./MembraneScreen";
import { ReportForm } from "./ReportForm";

const Waiting = () => <Body role="status">One moment…</Body>;

/** The report form of the tap in the address. */
export function ReportPlace() {
  const { tap: named } = useLocalSearchParams<{ tap?: string }>();
  const { record: report, unknown } = useNamed("water-reports");
  const { records, pending } = useRecords("taps");
  const tap = report?.tapId ?? named;
  const found = tap === undefined ? records[0] : records.find((each) => each.id === tap);
  if (unknown) return <NotHere what="report" href="/water" way="To the water" />;
  if (found) return <ReportForm key={report?.version ?? found.id} tap={found} report={report} />;
  if (tap !== undefined && !pending) return <NotHere what="tap" href="/water" way="To the water" />;
  return (
    <Screen title="Water report">
      {pending ? (
        <Waiting />
      ) : (
        <EmptyState
          title="A report belongs to a tap"
          action={<HeavyButton href="/setup/tap">Add the first tap</HeavyButton>}
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
  const found = rig === undefined ? rigs[0] : rigs.find((each) => each.id === rig);
  if (found) return <MembraneScreen key={found.id} rig={found} rigs={rigs} />;
  if (rig !== undefined && !pending)
    return <NotHere what="rig with a membrane" href="/water/membrane" way="To the membranes" />;
  return (
    <Screen title="Membrane">
      {pending ? (
        <Waiting />
      ) : (
        <EmptyState title="No rig with a membrane yet" action={<HeavyButton href="/setup/rig">Add a rig</HeavyButton>}>
          Add a rig with reverse osmosis; then its rejection, flow and wear are followed here.
        </EmptyState>
      )}
    </Screen>
  );
}
