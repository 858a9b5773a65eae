import { View } from "@tamagui/core";
import { addDays, type DayAhead, type Rig, type WeeksAhead } from "@winter-bead/core";
import { bookedLitres, explainOdds, oddsWords, workOn } from "@winter-bead/core/src/weeks";
import type { KeyboardEvent, HTMLAttributes } from "react";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { Pressable, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { litres } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import { useWorkBook } from "../rack/useRigs";
import { book, moveBooking } from "./deeds";
import { isPlain } from "./plain-booking";
import { fullDay } from "./words";

/** As many jobs are one tap away. */
const ONE_TAP = [1, 2, 3, 4, 5, 6] as const;

const wordsOf = ({ booked, name }: Kept<"bookings">, rig: Rig, units: Parameters<typeof litres>[1]): string => {
  const what =
    booked.by === "jobs"
      ? `${booked.jobs} ${booked.jobName ?? rig.jobName}${booked.jobs === 1 ? "" : "s"}`
      : booked.by === "off"
        ? "off"
        : "";
  const water = booked.by === "off" ? "" : litres(bookedLitres(booked, rig), units);
  return [name, what, water].filter((each) => each !== undefined && each !== "").join(", ");
};

/** A booking with its ways to another day: dragged by its handle, moved by keys, or by its two buttons. */
function BookingLine({
  booking,
  rig,
  handle,
}: {
  readonly booking: Kept<"bookings">;
  readonly rig: Rig;
  readonly handle: HTMLAttributes<HTMLElement>;
}) {
  const { units } = useSettings();
  const words = wordsOf(booking, rig, units);
  const by = (days: number) => void moveBooking(booking, addDays(booking.on, days));
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
    event.preventDefault();
    by(event.key === "ArrowDown" ? 1 : -1);
  };
  return (
    <View
      flexDirection="row"
      alignItems="center"
      gap="$2"
      borderColor="$line"
      borderWidth={2}
      borderRadius="$2"
      testID="booking"
      {...({ onKeyDown } as object)}
    >
      <View
        width={40}
        minHeight={48}
        alignItems="center"
        justifyContent="center"
        aria-hidden
        testID="drag-booking"
        {...(handle as object)}
      >
        <Strong color="$soft">⋮⋮</Strong>
      </View>
      <Pressable
        href={`/weeks/booking?id=${booking.id}`}
        aria-label={`${words}; Alt and arrow keys move it a day`}
        flex={1}
        alignItems="flex-start"
        minWidth={0}
      >
        <Body>{words}</Body>
      </Pressable>
      <Pressable onPress={() => by(-1)} aria-label={`${words}: a day earlier`} testID="earlier">
        <Strong>↑</Strong>
      </Pressable>
      <Pressable onPress={() => by(1)} aria-label={`${words}: a day later`} testID="later">
        <Strong>↓</Strong>
      </Pressable>
    </View>
  );
}

interface Odds {
  readonly day: DayAhead;
  readonly words: string;
}

/** Worth saying. */
const LEAST_ODDS = 0.005;

/** The odds that a vessel has run out before a day's work, in words; nothing where it surely has not. */
function oddsBefore(ahead: WeeksAhead | undefined, rigId: string, on: string): Odds | undefined {
  const day = ahead?.rigs.find((each) => each.rigId === rigId)?.planned.days.find((each) => each.on === on);
  if (!day || day.refilled || Math.max(day.outBefore, day.outBy) < LEAST_ODDS) return undefined;
  const before =
    day.outBefore < LEAST_ODDS ? "surely not run out before" : `run out before: ${oddsWords(day.outBefore)}`;
  return { day, words: day.litres > 0 ? `${before}; by the evening: ${oddsWords(day.outBy)}` : before };
}

function RigDay({
  rig,
  on,
  odds,
  handle,
}: {
  readonly rig: Rig;
  readonly on: string;
  readonly odds: Odds | undefined;
  readonly handle: (id: string) => HTMLAttributes<HTMLElement>;
}) {
  const { records } = useRecords("bookings");
  const workBook = useWorkBook();
  const own = records.filter((each) => each.rigId === rig.id && each.on === on);
  const named = own.filter((each) => !isPlain(each));
  const plain = own.find(isPlain);
  const known = workOn(on, rig, workBook);
  const chosen = plain?.booked.by === "jobs" ? plain.booked.jobs : plain ? 0 : undefined;
  const usual =
    known?.from === "usual-week"
      ? `${known.jobs} ${rig.jobName}${known.jobs === 1 ? "" : "s"} as usual`
      : known?.from === "day-off"
        ? "a day off"
        : known === undefined
          ? "as its log has it"
          : "";
  const chip = (jobs: number, label: string) => (
    <Pressable
      key={label}
      onPress={() => void book(rig, on, jobs === 0 ? { by: "off" } : { by: "jobs", jobs }, plain)}
      aria-pressed={chosen === jobs}
      aria-label={
        jobs === 0 ? `${rig.name} off on ${fullDay(on)}` : `${jobs} ${rig.jobName}s for ${rig.name} on ${fullDay(on)}`
      }
      testID={`book-${rig.name}-${jobs}`}
      minWidth={44}
      borderRadius="$2"
      borderWidth={2}
      borderColor={chosen === jobs ? "$ink" : "$line"}
      backgroundColor={chosen === jobs ? "$ink" : "$card"}
    >
      <Body color={chosen === jobs ? "$onInk" : "$ink"}>{label}</Body>
    </Pressable>
  );
  return (
    <View gap="$1">
      <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
        <Strong>{rig.name}</Strong>
        {own.length === 0 && usual !== "" ? <Small>{usual}</Small> : null}
      </View>
      {odds ? (
        <Explained explanation={explainOdds(odds.day)}>
          <Small testID={`odds-${rig.name}`} textDecorationLine="underline" textDecorationStyle="dotted">
            {odds.words}
          </Small>
        </Explained>
      ) : null}
      {named.map((booking) => (
        <BookingLine key={booking.id} booking={booking} rig={rig} handle={handle(booking.id)} />
      ))}
      {named.length > 0 ? null : (
        <View flexDirection="row" flexWrap="wrap" gap={4} role="group" aria-label={`${rig.jobName}s of ${rig.name}`}>
          {chip(0, "off")}
          {ONE_TAP.map((jobs) => chip(jobs, String(jobs)))}
          {chosen !== undefined && chosen > ONE_TAP.length ? chip(chosen, String(chosen)) : null}
        </View>
      )}
      <TextButton href={`/weeks/booking?rig=${rig.id}&on=${on}`} label={`Book more for ${rig.name} on ${fullDay(on)}`}>
        Book with its name or kind
      </TextButton>
    </View>
  );
}

/** A day opened: what each rig has booked, a tap on a number away. */
export function OpenDay({
  on,
  rigs,
  ahead,
  handle,
}: {
  readonly ahead: WeeksAhead | undefined;
  readonly on: string;
  readonly rigs: readonly Rig[];
  readonly handle: (id: string) => HTMLAttributes<HTMLElement>;
}) {
  return (
    <View gap="$3" paddingVertical="$2" testID={`open-${on}`}>
      {rigs.map((rig) => (
        <RigDay key={rig.id} rig={rig} on={on} odds={oddsBefore(ahead, rig.id, on)} handle={handle} />
      ))}
    </View>
  );
}
