import type { Charge, Vessel } from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { useNamed } from "../../forms/useNamed";
import { TextButton } from "../../ui/boxes";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { vesselsHere } from "../rack/train-views";
import { useRigFacts } from "../rack/useRigs";
import { ChargeForm } from "./ChargeForm";
import { MeterForm } from "./MeterForm";
import { RigForm } from "./RigForm";
import { SiteForm } from "./SiteForm";
import { TapForm } from "./TapForm";
import { VesselForm } from "./VesselForm";

const Waiting = () => <Body role="status">One moment…</Body>;

export function TapPlace() {
  const { record, ready, unknown } = useNamed("taps");
  const sites = useRecords("sites");
  if (unknown) return <NotHere what="tap" href="/setup" way="To Set up" />;
  return (
    <Screen title={record ? record.name : "Add a tap"}>
      {ready && !sites.pending ? <TapForm key={record?.id} tap={record} /> : <Waiting />}
    </Screen>
  );
}

export function MeterPlace() {
  const { record, ready, unknown } = useNamed("meters");
  if (unknown) return <NotHere what="meter" href="/setup" way="To Set up" />;
  return (
    <Screen title={record ? record.name : "Add a meter"}>
      {ready ? <MeterForm key={record?.id} meter={record} /> : <Waiting />}
    </Screen>
  );
}

export function RigPlace() {
  const { record, ready, unknown } = useNamed("rigs");
  const taps = useRecords("taps");
  const vessels = useRecords("vessels");
  if (unknown) return <NotHere what="rig" href="/setup" way="To Set up" />;
  return (
    <Screen title={record ? record.name : "Add a rig"}>
      {ready && !taps.pending && !vessels.pending ? <RigForm key={record?.id} rig={record} /> : <Waiting />}
      {record ? (
        <TextButton href={`/setup/train?rig=${record.id}`} testID="to-train">
          Rotate, swap, take out: who stands where
        </TextButton>
      ) : null}
      {record ? <TextButton href={`/weeks/label?rig=${record.id}`}>Print a label for the vessel</TextButton> : null}
    </Screen>
  );
}

export function SitePlace() {
  const { record, missing } = useNamed("sites");
  if (missing) return <NotHere what="site" href="/setup" way="To Set up" />;
  return (
    <Screen title={record?.name ?? "Site"}>{record ? <SiteForm key={record.id} site={record} /> : <Waiting />}</Screen>
  );
}

export function VesselPlace() {
  const { record, missing } = useNamed("vessels");
  if (missing) return <NotHere what="vessel" href="/setup" way="To Set up" />;
  return (
    <Screen title={record?.name ?? "Vessel"}>
      {record ? <VesselForm key={record.id} vessel={record} /> : <Waiting />}
    </Screen>
  );
}

/** The vessel that is meant; of a train that is begun the first that nothing is in, of a running one the lead. */
function aboutVessel(facts: RigFacts, asked: string | undefined, charges: readonly Charge[]): RigFacts {
  const here = vesselsHere(facts);
  const isEmpty = ({ id }: Vessel) => !charges.some((each) => each.vesselId === id && each.ended === undefined);
  const vessel = here.find(({ id }) => id === asked) ?? here.find(isEmpty) ?? here[0] ?? facts.vessel;
  return { ...facts, vessel };
}

export function ChargePlace() {
  const { rig, vessel } = useLocalSearchParams<{ rig?: string; vessel?: string }>();
  const { facts, pending } = useRigFacts();
  const { records: charges } = useRecords("charges");
  const ofRig = facts.find((each) => each.rig.id === rig);
  const found = ofRig && aboutVessel(ofRig, vessel, charges);
  if (!found && !pending) return <NotHere what="rig" href="/setup" way="To Set up" />;
  const title = found ? `Fill ${found.vessel.name}` : "Fill";
  return <Screen title={title}>{found ? <ChargeForm key={found.vessel.id} facts={found} /> : <Waiting />}</Screen>;
}
