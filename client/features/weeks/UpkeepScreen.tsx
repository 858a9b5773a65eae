import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { PART, type Due } from "@winter-bead/core";
import { frostAndSun } from "@winter-bead/core/src/weeks";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { Card, Caution, Pressable, TextButton } from "../../ui/boxes";
import { momentInWords } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { serviced } from "./deeds";
import { useWeeks } from "./useWeeks";
import { cartridgeWords, dueWords, taskWords } from "./words";

const NEVER = "9999";
const byDay = (a: Due, b: Due) => ((a.on ?? NEVER) < (b.on ?? NEVER) ? -1 : 1);

/** One part that has its day, and what can be done about it. */
function DueCard({
  due,
  names,
  today,
}: {
  readonly due: Due;
  readonly names: Parameters<typeof taskWords>[1];
  readonly today: string;
}) {
  const { units } = useSettings();
  return (
    <Card testID={`due-${due.task}`} borderColor={due.on !== undefined && due.on <= today ? "$rowan" : "$line"}>
      <Strong>{taskWords(due, names)}</Strong>
      <Small>{dueWords(due, today, units)}</Small>
      <View flexDirection="row" flexWrap="wrap" columnGap="$4">
        {due.task === "meter" ? (
          <TextButton href="/water/meters">Check it</TextButton>
        ) : (
          <>
            {due.task === "sediment" || due.task === "carbon" || due.task === "membrane" ? (
              <TextButton
                href={`/refill?rig=${due.rigId}&what=${due.task}`}
                label={`${taskWords(due, names)}: lead me`}
                testID={`lead-${due.task}`}
              >
                Lead me
              </TextButton>
            ) : null}
            <TextButton
              onPress={() => void serviced(due.rigId!, due.task as never, `${taskWords(due, names)}: done.`)}
              label={`${taskWords(due, names)}: done just now`}
            >
              Done just now
            </TextButton>
            {due.task === "sediment" ? (
              <TextButton
                href={`/weeks/pressure?rig=${due.rigId}`}
                label={`${taskWords(due, names)}: note the pressures across it`}
              >
                Note its pressures
              </TextButton>
            ) : null}
            <TextButton
              href={`/weeks/service?rig=${due.rigId}&part=${due.task}`}
              label={`${taskWords(due, names)}: another day or another interval`}
            >
              Another day or interval
            </TextButton>
          </>
        )}
      </View>
    </Card>
  );
}

/** Cartridges, membranes, seals, strainers, meters, opened bags, frost and sun: each on its time or its condition. */
export function UpkeepScreen() {
  const { ahead, records } = useWeeks();
  const { records: services } = useRecords("services");
  const { records: checks } = useRecords("pressure-checks");
  const { units } = useSettings();
  const { rigs, meters } = records;
  const today = ahead?.today ?? "";
  const done = [
    ...services.map(({ id, rigId, at, part, note }) => ({
      ...{ id, rigId, at, href: `/weeks/service?id=${id}` as const },
      what: note ? `${PART.of[part]}. ${note}` : PART.of[part],
    })),
    ...checks.map(({ id, rigId, at, ...read }) => ({
      ...{ id, rigId, at, href: `/weeks/pressure?id=${id}` as const },
      what: cartridgeWords(read, units),
    })),
  ].sort((a, b) => (a.at < b.at ? 1 : -1));
  const names = { rigs, meters };
  const due = [...(ahead?.dues ?? [])].sort(byDay);
  const old = ahead?.stock.filter(({ left, worth }) => left > 0.05 && worth.openMonths >= 6) ?? [];
  return (
    <Screen title="Upkeep">
      <View gap="$5">
        {frostAndSun(records, clockNow()).map((words) => (
          <Caution key={words}>{words}</Caution>
        ))}
        {ahead ? null : <Body role="status">Working it out…</Body>}
        <View gap="$2">
          {due.map((each) => (
            <DueCard key={`${each.task} ${each.rigId ?? each.meterId}`} due={each} names={names} today={today} />
          ))}
          {old.map(({ bag, worth }) => (
            <Card key={bag.id}>
              <Strong>{`Use up ${bag.name}`}</Strong>
              <Small>
                {`Open for ${Math.round(worth.openMonths)} months: opened resin is best used within six to twelve.`}
              </Small>
              <TextButton href={`/weeks/bag?id=${bag.id}`}>Look at it</TextButton>
            </Card>
          ))}
        </View>
        <View gap="$1">
          <Heading>Done</Heading>
          {done.length === 0 ? <Body color="$soft">Nothing noted yet.</Body> : null}
          {done.map(({ id, rigId, at, what, href }) => (
            <Pressable key={id} href={href} alignItems="flex-start">
              <Body>
                {`${momentInWords(Date.parse(at), clockNow())}: ${what}, ${rigs.find((rig) => rig.id === rigId)?.name ?? ""}`}
              </Body>
            </Pressable>
          ))}
        </View>
      </View>
    </Screen>
  );
}
