import { View } from "@tamagui/core";
import { changeSettings, useSettings } from "../../data/settings";
import { outbox, useOutbox } from "../../data/store";
import type { OutboxItem } from "../../data/outbox";
import { Card, Choice, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";

const KIND_WORDS = {
  sites: "Site",
  taps: "Tap",
  meters: "Meter",
  vessels: "Vessel",
  rigs: "Rig",
  charges: "Charge",
  visits: "Visit",
  "feed-tests": "Feed test",
  "water-reports": "Water report",
  "membrane-checks": "Membrane check",
  plans: "Plan",
  "price-lists": "Prices",
} as const;

function contentWords(body: object): string {
  const { name, readings } = body as { name?: string; readings?: readonly { point: string; value: number }[] };
  if (name) return name;
  return readings?.map(({ point, value }) => `${point} ${value}`).join(", ") ?? "";
}

function Waiting({ item }: { readonly item: OutboxItem }) {
  const { refused } = item;
  return (
    <Card testID="outbox-item">
      <Strong>
        {KIND_WORDS[item.kind]} {contentWords(item.body)}
      </Strong>
      <Small>
        {momentInWords(Date.parse(item.madeAt), Date.now())}
        {item.voided ? ", taken back" : ""}
      </Small>
      {refused ? (
        <View gap="$1">
          <Body color="$rowan" role="alert">
            {refused.title}: {refused.errors?.map((error) => error.message).join(" ") ?? refused.detail}
          </Body>
          <View flexDirection="row" gap="$4">
            <TextButton onPress={() => void outbox.retry(item)}>Send again</TextButton>
            <TextButton onPress={() => void outbox.drop(item.seq)}>Throw away</TextButton>
          </View>
        </View>
      ) : (
        <Small>waits to be sent</Small>
      )}
    </Card>
  );
}

/** Units, look, and what this device has not sent yet. */
export function SettingsScreen() {
  const { units, theme } = useSettings();
  const { items } = useOutbox();
  return (
    <Screen title="Settings">
      <View gap="$5">
        <Choice
          label="Units"
          value={units}
          options={[
            { value: "metric", label: "Metric: L, mm, kPa, °C" },
            { value: "us", label: "US: gal, in, psi, °F" },
          ]}
          onChange={(next) => changeSettings({ units: next })}
        />
        <Choice
          label="Look"
          value={theme}
          options={[
            { value: "auto", label: "As the device" },
            { value: "light", label: "Light" },
            { value: "dark", label: "Dark" },
          ]}
          onChange={(next) => changeSettings({ theme: next })}
        />
        <View gap="$3">
          <Heading>Not sent yet</Heading>
          {items.length === 0 ? (
            <Body color="$soft">Everything is with the server.</Body>
          ) : (
            items.map((item) => <Waiting key={item.seq} item={item} />)
          )}
        </View>
      </View>
    </Screen>
  );
}
