import { View } from "@tamagui/core";
import { onScale } from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import { useRecords } from "../../data/store";
import { EmptyState, HeavyButton, PlainButton, Pressable, TextButton } from "../../ui/boxes";
import { percent, scaleUnit, threeDigits } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { TapDetail } from "./TapDetail";
import type { TapWater } from "./tap-water";
import { useTapWaters } from "./useTapWaters";

function TapRow({ water, site, here }: { readonly water: TapWater; readonly site: string; readonly here: boolean }) {
  const { tap, range, described } = water;
  const [low, high] = range ? [onScale(range.low, tap.scale), onScale(range.high, tap.scale)] : [tap.low, tap.high];
  const hidden = described?.hidden.share ?? 0;
  return (
    <Pressable
      href={`/water/${tap.id}`}
      aria-current={here ? "true" : undefined}
      aria-label={`${tap.name}, ${site}`}
      testID="tap-row"
      alignItems="stretch"
      paddingVertical="$2"
      borderBottomColor={here ? "$ink" : "$line"}
      borderBottomWidth={here ? 3 : 1}
    >
      <View flexDirection="row" justifyContent="space-between" alignItems="baseline" gap="$3">
        <Strong fontSize="$3" textAlign="left" flexShrink={1}>
          {tap.name}
        </Strong>
        <Strong fontSize="$3">{`${threeDigits(low)} to ${threeDigits(high)}`}</Strong>
      </View>
      <View flexDirection="row" justifyContent="space-between" gap="$3">
        <Small textAlign="left" flexShrink={1}>
          {site}
          {range ? `, ${range.days} ${range.days === 1 ? "day" : "days"} read` : ", not read yet"}
        </Small>
        <Small>{scaleUnit(tap.scale)}</Small>
      </View>
      {hidden > 0.005 ? (
        <Small textAlign="left">{`${percent(hidden)} % of the anion load unseen by a meter`}</Small>
      ) : null}
    </Pressable>
  );
}

function Ways() {
  const { records: rigs } = useRecords("rigs");
  const membranes = rigs.filter((rig) => rig.stages.some((stage) => stage.kind === "membrane"));
  return (
    <View gap="$2">
      <Heading>Beside the taps</Heading>
      <PlainButton href="/water/meters" testID="open-meters">
        Meters side by side
      </PlainButton>
      <PlainButton href="/water/membrane" testID="open-membrane">
        {membranes.length > 0 ? `Membrane of ${membranes.map((rig) => rig.name).join(", ")}` : "Membranes"}
      </PlainButton>
      <PlainButton href="/lab" testID="open-lab-list">
        Lab: watch a bed give way
      </PlainButton>
    </View>
  );
}

/** Know the water: every tap with its range, and what its meter doesn't see. */
export function WaterScreen() {
  const { tap: chosen } = useLocalSearchParams<{ tap?: string }>();
  const { waters, all, pending } = useTapWaters();
  const { records: sites } = useRecords("sites");
  const wide = useWide();
  const water = all.find((each) => each.tap.id === chosen);
  if (chosen !== undefined && !water && !pending) return <NotHere what="tap" href="/water" way="To the water" />;
  if (waters.length === 0) {
    return (
      <Screen title="The water">
        {pending ? (
          <Body role="status">One moment…</Body>
        ) : (
          <View gap="$4">
            <EmptyState title="No tap yet" action={<HeavyButton href="/setup/tap">Add the first tap</HeavyButton>}>
              Name the tap that will really feed the vessel. Then its readings gather here, day by day.
            </EmptyState>
            <Ways />
          </View>
        )}
      </Screen>
    );
  }
  const siteName = (id: string) => sites.find((site) => site.id === id)?.name ?? "";
  const here = water ?? (wide ? waters[0] : undefined);
  const list = (
    <View gap="$5">
      <View>
        {waters.map((each) => (
          <TapRow key={each.tap.id} water={each} site={siteName(each.tap.siteId)} here={each === here} />
        ))}
        <TextButton href="/setup/tap">Add a tap</TextButton>
      </View>
      <Ways />
    </View>
  );
  if (wide && here)
    return (
      <Screen title="The water" detail={<TapDetail key={here.tap.id} water={here} all={waters} />}>
        {list}
      </Screen>
    );
  if (water)
    return (
      <Screen name={water.tap.name}>
        <TapDetail water={water} all={waters} heading="h1" />
      </Screen>
    );
  return <Screen title="The water">{list}</Screen>;
}
