import { View } from "@tamagui/core";
import type { Put } from "@winter-bead/contract";
import { changeSettings, useSettings } from "../../data/settings";
import { useReach } from "../../data/reach";
import { outbox, useOutbox } from "../../data/store";
import type { OutboxItem } from "../../data/outbox";
import { isExample, openExample } from "../../data/example";
import { Card, Choice, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { OnAPhone } from "./OnAPhone";

/** What an act keeps, as far as it has a name or readings. */
function contentWords(puts: readonly Put[]): string {
  const words = puts.map((put) => {
    if ("voided" in put) return "";
    const { name, readings } = put.body as { name?: string; readings?: readonly { point: string; value: number }[] };
    return name ?? readings?.map(({ point, value }) => `${point} ${value}`).join(", ") ?? "";
  });
  return words.filter((each) => each !== "").join(", ");
}

/** The end of a refill that another phone ended first. */
const isSecondEnd = ({ act }: OutboxItem) =>
  act.puts.some((put) => put.kind === "refill-steps" && "body" in put && put.body["outcome"] === "finished");

function Waiting({ item }: { readonly item: OutboxItem }) {
  const { refused } = item;
  return (
    <Card testID="outbox-item">
      <Strong>{[item.act.what, contentWords(item.act.puts)].filter(Boolean).join(": ")}</Strong>
      <Small>{momentInWords(Date.parse(item.madeAt), Date.now())}</Small>
      {refused ? (
        <View gap="$1">
          <Body color="$rowan" role="alert">
            {refused.title}: {refused.errors?.map((error) => error.message).join(" ") ?? refused.detail}
          </Body>
          {isSecondEnd(item) ? (
            <Body>
              Another phone ended this work first, and what it kept stands. Where yours was right, correct the charge in
              its history; this one can be thrown away.
            </Body>
          ) : null}
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

/** When the server last answered, and what keeps it from answering now. */
function ServerWords() {
  const { state, answeredAt, why, words } = useReach();
  const last = answeredAt === undefined ? "" : ` It last answered ${momentInWords(answeredAt, Date.now())}.`;
  if (state === "reached") return <Body color="$soft">The server answers.</Body>;
  if (state === "unknown") return <Body color="$soft">The server was not asked yet.</Body>;
  return (
    <Body>
      {why === "busy" ? `The server turns work away just now${words ? `: ${words}` : ""}.` : "No signal."}
      {last} What waits is sent by itself.
    </Body>
  );
}

/** Units, look, and what this device has not sent yet. */
export function SettingsScreen() {
  const { units, theme, keys } = useSettings();
  const { items, held } = useOutbox();
  const reach = useReach();
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
        <Choice
          label="One-letter keys on a keyboard"
          value={keys}
          options={[
            { value: "on", label: "On" },
            { value: "off", label: "Off" },
          ]}
          onChange={(next) => changeSettings({ keys: next })}
        />
        <View gap="$1">
          <TextButton href="/words">Words of the trade, explained</TextButton>
          {isExample ? null : (
            <TextButton onPress={() => void openExample()} testID="open-example">
              Look at an example crew
            </TextButton>
          )}
        </View>
        <OnAPhone />
        <View gap="$3">
          <Heading>Not sent yet</Heading>
          <ServerWords />
          {held ? (
            <View gap="$1" testID="held">
              <Body role="alert">{held.words}</Body>
              <TextButton onPress={() => outbox.letGo()}>Send it now</TextButton>
            </View>
          ) : null}
          {items.length === 0 ? (
            <Body color="$soft">
              {reach.state === "reached" ? "Everything is with the server." : "Nothing waits on this device."}
            </Body>
          ) : (
            items.map((item) => <Waiting key={item.seq} item={item} />)
          )}
        </View>
      </View>
    </Screen>
  );
}
