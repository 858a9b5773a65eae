import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { useState, type ReactNode } from "react";
import { useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { Pressable, TextButton } from "../../ui/boxes";
import { dayOf, scaleUnit, threeDigits } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { inUse } from "../../data/in-use";
import { checkWords } from "../water/meter-words";

function Line({ name, detail, href }: { readonly name: string; readonly detail: string; readonly href: string }) {
  return (
    <Pressable
      href={href}
      aria-label={`${name}, ${detail}`}
      alignItems="flex-start"
      borderBottomColor="$line"
      borderBottomWidth={1}
      paddingVertical="$2"
      alignSelf="stretch"
    >
      <Strong>{name}</Strong>
      <Small textAlign="left">{detail}</Small>
    </Pressable>
  );
}

function Section({
  step,
  title,
  empty,
  count,
  add,
  addAt,
  children,
}: {
  readonly step: number;
  readonly title: string;
  readonly empty: string;
  readonly count: number;
  readonly add: string;
  readonly addAt: string;
  readonly children: ReactNode;
}) {
  return (
    <View gap="$1">
      <Heading>
        {step}. {title}
      </Heading>
      {count === 0 ? <Body color="$soft">{empty}</Body> : children}
      <TextButton href={addAt}>{add}</TextButton>
    </View>
  );
}

/** What is sold, broken or gone: hidden here, kept in the history, and to be brought back. */
function Retired({
  things,
}: {
  readonly things: readonly { readonly name: string; readonly on: string; readonly href: string }[];
}) {
  const [open, setOpen] = useState(false);
  if (things.length === 0) return null;
  return (
    <View gap="$1">
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="retired">
        {open ? "Close the retired ones" : `Retired: ${things.length}`}
      </TextButton>
      {open
        ? things.map(({ name, on, href }) => (
            <Line key={href} name={name} detail={`retired ${dayOf(on)}`} href={href} />
          ))
        : null}
    </View>
  );
}

const retired = <T extends { readonly id: string; readonly name: string; readonly retiredOn?: string | undefined }>(
  things: readonly T[],
  href: string,
) =>
  things.flatMap(({ id, name, retiredOn }) => (retiredOn ? [{ name, on: retiredOn, href: `${href}?id=${id}` }] : []));

/** A list under its heading; nothing where it is empty. */
function Named<T extends { readonly id: string; readonly name: string }>({
  title,
  things,
  detail,
  at,
}: {
  readonly title: string;
  readonly things: readonly T[];
  readonly detail: (thing: T) => string;
  readonly at: string;
}) {
  if (things.length === 0) return null;
  return (
    <View gap="$1">
      <Heading>{title}</Heading>
      {things.map((thing) => (
        <Line key={thing.id} name={thing.name} detail={detail(thing)} href={`${at}?id=${thing.id}`} />
      ))}
    </View>
  );
}

/** What is looked for less often: sites, vessels that hang nowhere, and what is retired. */
function Beside() {
  const { records: sites } = useRecords("sites");
  const { records: taps } = useRecords("taps");
  const { records: meters } = useRecords("meters");
  const { records: rigs } = useRecords("rigs");
  const { records: vessels } = useRecords("vessels");
  const trains = useTrains();
  const hanging = new Set(inUse(rigs).flatMap(({ id }) => trains.at(id, clockNow()).map(({ vesselId }) => vesselId)));
  const free = inUse(vessels).filter(({ id }) => !hanging.has(id));
  return (
    <>
      <Named title="Sites" things={sites} detail={({ note }) => note ?? "where taps are"} at="/setup/site" />
      <Named title="Vessels without a rig" things={free} detail={() => "hangs nowhere now"} at="/setup/vessel" />
      <Retired
        things={[
          ...retired(taps, "/setup/tap"),
          ...retired(meters, "/setup/meter"),
          ...retired(rigs, "/setup/rig"),
          ...retired(vessels, "/setup/vessel"),
        ]}
      />
    </>
  );
}

/** What the crew has: taps, meters, rigs; numbered, since that is the order of a first day. */
export function SetupScreen() {
  const { records: sites } = useRecords("sites");
  const { records: allTaps } = useRecords("taps");
  const { records: allMeters } = useRecords("meters");
  const { records: allRigs } = useRecords("rigs");
  const [taps, meters, rigs] = [inUse(allTaps), inUse(allMeters), inUse(allRigs)];
  const siteName = (id: string) => sites.find((site) => site.id === id)?.name ?? "";
  return (
    <Screen title="Set up">
      <View gap="$5">
        <Section
          step={1}
          title="Taps"
          empty="Where the water comes from, and how hard it is."
          count={taps.length}
          add="Add a tap"
          addAt="/setup/tap"
        >
          {taps.map((tap) => (
            <Line
              key={tap.id}
              name={tap.name}
              detail={`${siteName(tap.siteId)}: ${threeDigits(tap.low)} to ${threeDigits(tap.high)}, typically ${threeDigits(tap.typical)} ${scaleUnit(tap.scale)}`}
              href={`/setup/tap?id=${tap.id}`}
            />
          ))}
        </Section>
        <Section
          step={2}
          title="Meters"
          empty="Which meter, and on which scale it reads."
          count={meters.length}
          add="Add a meter"
          addAt="/setup/meter"
        >
          {meters.map((meter) => (
            <Line
              key={meter.id}
              name={meter.name}
              detail={`${scaleUnit(meter.scale)}${meter.compensated ? "" : ", not compensated"}, ${checkWords(meter)}`}
              href={`/setup/meter?id=${meter.id}`}
            />
          ))}
        </Section>
        <Section
          step={3}
          title="Rigs and vessels"
          empty="A vessel, what hangs before it, and what the water is for."
          count={rigs.length}
          add="Add a rig"
          addAt="/setup/rig"
        >
          {rigs.map((rig) => (
            <View key={rig.id} flexDirection="row" alignItems="center" gap="$3">
              <View flex={1}>
                <Line
                  name={rig.name}
                  detail={`${rig.stages.map((stage) => stage.kind).join(", ")}; for ${rig.use}`}
                  href={`/setup/rig?id=${rig.id}`}
                />
              </View>
              <TextButton href={`/setup/charge?rig=${rig.id}`} label={`Fill ${rig.name}`}>
                Fill
              </TextButton>
            </View>
          ))}
        </Section>
        <TextButton href="/setup/first" testID="three-questions">
          A rig by three questions
        </TextButton>
        <Beside />
        <TextButton href="/settings">Settings: units and look</TextButton>
      </View>
    </Screen>
  );
}
