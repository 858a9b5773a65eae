import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import type { Booking, Rig } from "@winter-bead/core";
import { useState } from "react";
import { inUse } from "../../data/in-use";
import { useRecords } from "../../data/store";
import { PlainButton, Pressable, TextButton } from "../../ui/boxes";
import { download } from "../../ui/files";
import { localDate } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { useCrewRecords } from "./useWeeks";
import { CalendarIn } from "./CalendarIn";
import { CalendarFeeds } from "./CalendarFeeds";
import { fullDay } from "./words";
import { onDemand } from "../on-demand-piece";

const DAYS = [
  ["monday", "Mon"],
  ["tuesday", "Tue"],
  ["wednesday", "Wed"],
  ["thursday", "Thu"],
  ["friday", "Fri"],
  ["saturday", "Sat"],
  ["sunday", "Sun"],
] as const;

function Line({ title, detail, href }: { readonly title: string; readonly detail: string; readonly href: string }) {
  return (
    <Pressable href={href} alignItems="flex-start" alignSelf="stretch" borderBottomColor="$line" borderBottomWidth={1}>
      <Strong>{title}</Strong>
      <Small textAlign="left">{detail}</Small>
    </Pressable>
  );
}

const nameOf = (rigs: readonly Rig[], id: string | undefined) =>
  rigs.find((each) => each.id === id)?.name ?? "All rigs";

/** Everything booked and set, as a file that calendars read. */
function CalendarOut({ bookings, rigs }: { readonly bookings: readonly Booking[]; readonly rigs: readonly Rig[] }) {
  const records = useCrewRecords();
  const [busy, setBusy] = useState(false);
  const save = async () => {
    setBusy(true);
    try {
      const { calendarFile } = await onDemand();
      const text = calendarFile({ ...records, bookings, rigs }, clockNow());
      download(`weeks-${localDate(clockNow())}.ics`, text, "text/calendar");
      showToast({ words: "Saved: bookings, days off and what is set, for a calendar." });
    } finally {
      setBusy(false);
    }
  };
  return (
    <PlainButton onPress={() => void save()} disabled={busy} testID="calendar-file">
      Save as a calendar file
    </PlainButton>
  );
}

/** What is known of the work to come besides single bookings, and the way in and out of calendars. */
export function WorkScreen() {
  const { records: allRigs } = useRecords("rigs");
  const { records: weeks } = useRecords("usual-weeks");
  const { records: daysOff } = useRecords("days-off");
  const { records: bookings } = useRecords("bookings");
  const rigs = inUse(allRigs);
  const today = localDate(clockNow());
  const coming = bookings.filter(({ on }) => on >= today).length;
  return (
    <Screen title="Work to come">
      <View gap="$5">
        <View gap="$1">
          <Heading>Usual weeks</Heading>
          <Body color="$soft">Jobs by weekday, over a season. A booking or a day off goes before it.</Body>
          {weeks.map(({ id, rigId, name, from, until, jobs }) => (
            <Line
              key={id}
              title={`${nameOf(allRigs, rigId)}${name ? `, ${name}` : ""}`}
              detail={`${DAYS.map(([day, short]) => `${short} ${jobs[day]}`).join(" · ")}; from ${fullDay(from)}${until ? ` until ${fullDay(until)}` : ""}`}
              href={`/weeks/usual-week?id=${id}`}
            />
          ))}
          <TextButton href="/weeks/usual-week">Add a usual week</TextButton>
        </View>
        <View gap="$1">
          <Heading>Days off</Heading>
          {[...daysOff]
            .sort((a, b) => (a.from < b.from ? -1 : 1))
            .map(({ id, rigId, from, until, name }) => (
              <Line
                key={id}
                title={name ?? "Off"}
                detail={`${nameOf(allRigs, rigId)}: ${fullDay(from)}${until === from ? "" : ` to ${fullDay(until)}`}`}
                href={`/weeks/day-off?id=${id}`}
              />
            ))}
          <TextButton href="/weeks/day-off">Add days off</TextButton>
        </View>
        <View gap="$2">
          <Heading>Calendars</Heading>
          <Body>{`${coming} ${coming === 1 ? "booking" : "bookings"} to come.`}</Body>
          <TextButton href="/weeks/booking">Book work</TextButton>
          <CalendarOut bookings={bookings} rigs={allRigs} />
          <CalendarIn rigs={rigs} />
          <CalendarFeeds />
        </View>
      </View>
    </Screen>
  );
}
