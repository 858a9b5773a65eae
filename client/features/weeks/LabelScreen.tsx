import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { GRADE } from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { Choice, PlainButton } from "../../ui/boxes";
import { Code, usePhoneAddress } from "../../ui/Code";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body, Small, Strong } from "../../ui/words";
import { useState } from "react";
import { bagName } from "./words";

/** What a label stands for, and the page that its code opens. */
function useLabelled(): { readonly name: string; readonly detail: string; readonly path: string } | undefined {
  const { bag: bagId, rig: rigId } = useLocalSearchParams<{ bag?: string; rig?: string }>();
  const { records: bags } = useRecords("bags");
  const { records: rigs } = useRecords("rigs");
  const { records: vessels } = useRecords("vessels");
  const trains = useTrains();
  const nameOf = (vesselId: string) => vessels.flatMap(({ id, name }) => (id === vesselId ? [name] : []));
  const bag = bags.find(({ id }) => id === bagId);
  if (bag)
    return {
      name: bagName(bag),
      detail: `${GRADE.of[bag.grade]} resin, bought ${bag.boughtOn}`,
      path: `/weeks/bag?id=${bag.id}`,
    };
  const rig = rigs.find(({ id }) => id === rigId);
  const names = rig ? trains.at(rig.id, clockNow()).flatMap(({ vesselId }) => nameOf(vesselId)) : [];
  return rig ? { name: rig.name, detail: names.join(", "), path: `/?rig=${rig.id}` } : undefined;
}

const SIZES = [
  { value: "160", label: "Small" },
  { value: "240", label: "Middle" },
  { value: "360", label: "Large" },
];

/** A label to print: the phone's own camera reads it and opens the page of the bag or the vessel. */
export function LabelScreen() {
  const labelled = useLabelled();
  const { pending } = useRecords("bags");
  const [size, setSize] = useState("240");
  const origin = usePhoneAddress();
  if (!labelled)
    return pending ? (
      <Body role="status">One moment…</Body>
    ) : (
      <NotHere what="label" href="/weeks/stock" way="To the stock" />
    );
  const address = `${origin ?? location.origin}${labelled.path}`;
  return (
    <Screen title="Label">
      <View gap="$4" alignItems="flex-start">
        <View
          gap="$1"
          padding="$3"
          borderWidth={2}
          borderColor="$ink"
          borderRadius="$2"
          alignItems="center"
          testID="label"
        >
          <Code address={address} side={Number(size)} />
          <Strong fontSize="$4">{labelled.name}</Strong>
          <Small color="$ink">{labelled.detail}</Small>
        </View>
        <View className="not-printed" gap="$3">
          <Choice label="Size" value={size} options={SIZES} onChange={setSize} />
          <PlainButton onPress={() => window.print()}>Print</PlainButton>
          {origin ? null : (
            <Body color="$rowan">
              This page stands at an address that only this computer reaches: a phone needs one of its own
              (docs/deploy.md) before a label is worth printing.
            </Body>
          )}
        </View>
      </View>
    </Screen>
  );
}
