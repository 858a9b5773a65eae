import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  addDays,
  carbonWords,
  type Rig,
  type RigAhead,
  type Standing,
  type WeeksAhead,
  type WhatIf,
} from "@winter-bead/core";
import { bookedJobs, DAYS_AHEAD, firstShortDay, oddsWords, workOn } from "@winter-bead/core/src/weeks";
import { useMemo, useState } from "react";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { Choice, EmptyState, Going, HeavyButton, Pressable, TextButton } from "../../ui/boxes";
import { dateInWords, localDate, type Units } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Body, Heading, Small, Strong, Title } from "../../ui/words";
import { DAY_WIDTH, DayRow, type Cell, type DayOfAll } from "./DayRow";
import { moveBooking } from "./deeds";
import { OpenDay } from "./OpenDay";
import { OpenWorkLine } from "../refill/OpenWorkLine";
import { useRigs } from "../rack/useRigs";
import { wordingIn } from "../rack/words";
import { PlanCard } from "./PlanCard";
import { Ahead, orderWords } from "./Ahead";
import { useDrag } from "../../ui/useDrag";
import { AS_IT_IS, useWeeks } from "./useWeeks";
import { dayLoad, dayName, fullDay, listed, WEEKDAY_NAMES } from "./words";

/** Vessels that stand side by side on a phone. */
const ACROSS = 3;
const WHAT_IFS: Readonly<Record<string, { readonly label: string; readonly whatIf: WhatIf }>> = {
  plain: { label: "As it is", whatIf: AS_IT_IS },
  less: { label: "A fifth less water a job", whatIf: { waterShare: 0.8 } },
  spare: { label: "A filled spare at hand", whatIf: { spare: true } },
};
/** Days in sight before more are asked for. */
const FIRST_DAYS = 14;

/** After every date: nothing runs out in these weeks, or nothing is known. */
const LATER = "9998";
const LATEST = "9999";

/** The neediest first: whose first marked day comes soonest. */
function byNeed(rigs: readonly Rig[], ahead: WeeksAhead | undefined): readonly Rig[] {
  const place = ({ id }: Rig) => {
    const own = ahead?.rigs.find(({ rigId }) => rigId === id);
    const short = own && firstShortDay(own.untouched.days);
    return short?.on ?? (own ? LATER : LATEST);
  };
  return [...rigs].sort((a, b) => (place(a) < place(b) ? -1 : place(a) > place(b) ? 1 : 0));
}

/** What a "what if" does to the first marked day, in words. */
function whatIfWords(
  rigs: readonly Rig[],
  plain: WeeksAhead | undefined,
  ahead: WeeksAhead | undefined,
): readonly string[] {
  if (!plain || !ahead || plain === ahead) return [];
  const of = (all: WeeksAhead, rigId: string) => all.rigs.find((each) => each.rigId === rigId);
  return rigs.flatMap((rig) => {
    const [before, after] = [of(plain, rig.id), of(ahead, rig.id)];
    const short = before && firstShortDay(before.untouched.days);
    const then = after?.untouched.days.find(({ on }) => on === short?.on);
    if (!short || !then) return [];
    return [`${rig.name} on ${fullDay(short.on)}: ${oddsWords(short.outBy)} short, then ${oddsWords(then.outBy)}.`];
  });
}

function headline(ahead: WeeksAhead | undefined, state: string): string {
  if (!ahead) return state === "failed" ? "This could not be worked out on this device just now." : "Working it out…";
  const [next] = ahead.plan.days;
  if (!next) return "Nothing to do in these weeks.";
  const when = next.on === ahead.today ? "Today" : next.on === addDays(ahead.today, 1) ? "Tomorrow" : dayName(next.on);
  const isFar = next.on > addDays(ahead.today, 6);
  return `${isFar ? fullDay(next.on) : when} is the day: ${dayLoad(next)}.`;
}

function useDays(
  rigs: readonly Rig[],
  ahead: WeeksAhead | undefined,
  today: string,
  count: number,
): readonly DayOfAll[] {
  const { records: bookings } = useRecords("bookings");
  const { records: usualWeeks } = useRecords("usual-weeks");
  const { records: daysOff } = useRecords("days-off");
  return useMemo(() => {
    const book = { bookings, usualWeeks, daysOff };
    const marked = new Map(
      rigs.map((rig) => {
        const days = ahead?.rigs.find(({ rigId }) => rigId === rig.id)?.planned.days;
        return [rig.id, days && firstShortDay(days)?.on];
      }),
    );
    return Array.from({ length: count }, (_, i): DayOfAll => {
      const on = addDays(today, i);
      const known = rigs.map((rig) => workOn(on, rig, book));
      const sum = (from: (at: number) => number) => rigs.reduce((all, _rig, at) => all + from(at), 0);
      return {
        on,
        cells: rigs.map((rig): Cell => ({
          rig,
          day: ahead?.rigs.find(({ rigId }) => rigId === rig.id)?.planned.days.find((day) => day.on === on),
          marked: marked.get(rig.id) === on,
          isTrain: ahead?.rigs.find(({ rigId }) => rigId === rig.id)?.rotation !== undefined,
        })),
        booked: sum(
          (at) => known[at]?.bookings.reduce((all, { booked }) => all + bookedJobs(booked, rigs[at]!), 0) ?? 0,
        ),
        usual: sum((at) => (known[at]?.from === "usual-week" ? known[at].jobs : 0)),
        isOff: known.length > 0 && known.every((each) => each !== undefined && each.litres === 0),
      };
    });
  }, [rigs, ahead, today, count, bookings, usualWeeks, daysOff]);
}

function ColumnHeads({ rigs }: { readonly rigs: readonly Rig[] }) {
  return (
    <View flexDirection="row" alignItems="flex-end" paddingVertical="$1">
      <Small width={DAY_WIDTH}>day, work</Small>
      {rigs.map((rig) => (
        <Strong key={rig.id} flex={1} minWidth={0} fontSize="$1" textAlign="center" numberOfLines={1}>
          {rig.name}
        </Strong>
      ))}
    </View>
  );
}

function Legend() {
  return (
    <Small>
      Each bead is a tenth of a charge, in the evening: hollow is left, pale is uncertain, filled is taken. Boxes are
      jobs; broken ones are as usual.
    </Small>
  );
}

/** Dates of a rig, and the last day to order for it. */
function DateLine({
  rig,
  own,
  today,
  standing,
}: {
  readonly rig: Rig;
  readonly own: RigAhead;
  readonly today: string;
  /** As the rack has it. */
  readonly standing: Standing | undefined;
}) {
  const { units } = useSettings();
  const { dates, orderBy } = own;
  if (!dates) return null;
  const words = `${rig.name}: about ${dateInWords(dates.likely, today)}, ${dateInWords(dates.early, today)} to ${dateInWords(dates.late, today)}`;
  const order =
    orderBy === undefined
      ? ""
      : orderBy <= today
        ? "; order resin today"
        : `; order resin by ${dateInWords(orderBy, today)}`;
  const { rotation } = own;
  const spent = rotation?.dates;
  const rotate = rotation
    ? spent
      ? ` ${rotation.lead} is spent about ${dateInWords(spent.likely, today)}, ${dateInWords(spent.early, today)} to ${dateInWords(spent.late, today)}: then ${rotation.next} leads.`
      : ` ${rotation.lead} is spent: rotate.`
    : "";
  const carbon = standing ? carbonWords(standing, rig, wordingIn(units)) : "";
  return <Body testID={`dates-${rig.name}`}>{`${words}${order}.${rotate}${carbon && ` ${carbon}`}`}</Body>;
}

/** The title, what comes next, and what might be otherwise. */
function Head({
  words,
  what,
  onWhat,
}: {
  readonly words: string;
  readonly what: string;
  readonly onWhat: (what: string) => void;
}) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <View flexDirection="row" flexWrap="wrap" alignItems="flex-end" justifyContent="space-between">
        <View flexShrink={1}>
          <Title>Weeks</Title>
          <Body color="$soft" role="status" testID="weeks-headline">
            {words}
          </Body>
        </View>
        <TextButton
          onPress={() => {
            setAsking(!asking);
            onWhat("plain");
          }}
          expanded={asking}
          testID="ask-what-if"
        >
          What if
        </TextButton>
      </View>
      {asking ? (
        <Choice
          label="What if"
          hideLabel
          value={what}
          options={Object.entries(WHAT_IFS).map(([value, { label }]) => ({ value, label }))}
          onChange={onWhat}
          testID="what-if"
        />
      ) : null}
    </>
  );
}

/** The next thing to order, where it cannot be missed. */
function NextOrder({ ahead, units }: { readonly ahead: WeeksAhead; readonly units: Units }) {
  const [next] = ahead.orders;
  if (!next) return null;
  return (
    <Pressable href="/weeks/stock" alignItems="flex-start" minHeight={40} testID="next-order">
      <Going rowan={next.by <= ahead.today}>{orderWords(next, ahead.today, units)}</Going>
    </Pressable>
  );
}

const NoRigYet = () => (
  <Screen title="Weeks">
    <EmptyState
      title="No rig yet"
      action={
        <HeavyButton href="/setup" testID="go-setup">
          Set up the first rig
        </HeavyButton>
      }
    >
      Once a vessel hangs on the rack, its days to come stand here: what is booked, what is left each evening, and the
      day to refill.
    </EmptyState>
    <TextButton href="/refill/practice">Practise a refill on a usual vessel</TextButton>
  </Screen>
);

/** Every rig's dates, and of which nothing can be foretold. */
function Dates({
  rigs,
  ahead,
  today,
}: {
  readonly rigs: readonly Rig[];
  readonly ahead: WeeksAhead | undefined;
  readonly today: string;
}) {
  const { rigs: views } = useRigs();
  return (
    <View gap="$1">
      {rigs.map((rig) => {
        const own = ahead?.rigs.find(({ rigId }) => rigId === rig.id);
        const standing = views.find(({ facts }) => facts.rig.id === rig.id)?.assessment?.standing;
        return own ? <DateLine key={rig.id} rig={rig} own={own} today={today} standing={standing} /> : null;
      })}
      {ahead && ahead.plan.declined.length > 0 ? (
        <Body testID="declined">{`${listed(ahead.plan.declined.map((day) => `${WEEKDAY_NAMES[day]}s`))} are left alone: declined more often than taken of late.`}</Body>
      ) : null}
      {ahead?.silent.map(({ rigId, because }) => (
        <Body key={rigId}>{`${rigs.find(({ id }) => id === rigId)?.name}: ${because}`}</Body>
      ))}
    </View>
  );
}

/** The weeks to come: days run down, vessels stand across, and what is to be done opens where its day stands. */
export function WeeksScreen() {
  const { records: allRigs } = useRecords("rigs");
  const { records: meters } = useRecords("meters");
  const { records: bookings } = useRecords("bookings");
  const { units } = useSettings();
  const wide = useWide();
  const [what, setWhat] = useState("plain");
  const [open, setOpen] = useState<string>();
  const [from, setFrom] = useState(0);
  const [count, setCount] = useState(FIRST_DAYS);
  const plain = useWeeks();
  const other = useWeeks(WHAT_IFS[what]!.whatIf, what !== "plain");
  const { ahead, state } = what === "plain" ? plain : other;
  const rigs = useMemo(() => allRigs.filter(({ retiredOn }) => retiredOn === undefined), [allRigs]);
  const sorted = useMemo(() => byNeed(rigs, plain.ahead), [rigs, plain.ahead]);
  const across = wide ? ACROSS + 1 : ACROSS;
  const shown = useMemo(() => sorted.slice(from, from + across), [sorted, from, across]);
  const today = ahead?.today ?? localDate(clockNow());
  const days = useDays(shown, ahead, today, count);
  const { over, handle } = useDrag((id, on) => {
    const booking = bookings.find((each) => each.id === id);
    if (booking && booking.on !== on) void moveBooking(booking, on);
  });
  if (rigs.length === 0) return <NoRigYet />;
  const names = {
    ...{ rigs, meters },
    rotations: new Map(ahead?.rigs.flatMap(({ rigId, rotation }) => (rotation ? [[rigId, rotation] as const] : []))),
  };
  const side = <Ahead ahead={plain.ahead} names={names} today={today} />;
  const beside = (
    <View>
      {open ? (
        <>
          <Heading>{fullDay(open)}</Heading>
          <OpenDay on={open} rigs={rigs} ahead={ahead} handle={handle} />
        </>
      ) : null}
      {side}
    </View>
  );
  return (
    <Screen name="Weeks" detail={wide ? beside : undefined}>
      <View gap="$2">
        <Head words={headline(ahead, state)} what={what} onWhat={setWhat} />
        <OpenWorkLine />
        {plain.ahead ? <NextOrder ahead={plain.ahead} units={units} /> : null}
        {what === "plain" || state !== "here"
          ? null
          : whatIfWords(rigs, plain.ahead, ahead).map((words) => (
              <Body key={words} testID="what-if-words">
                {words}
              </Body>
            ))}
        {sorted.length > across ? (
          <TextButton onPress={() => setFrom(from + across >= sorted.length ? 0 : from + across)} testID="more-rigs">
            {`Vessels ${from + 1} to ${Math.min(sorted.length, from + across)} of ${sorted.length}: show the next`}
          </TextButton>
        ) : null}
        <ColumnHeads rigs={shown} />
        <View>
          {days.map((day, i) => {
            const planned = ahead?.plan.days.find(({ on }) => on === day.on);
            return (
              <View key={day.on} borderTopWidth={2} borderTopColor="$line">
                <DayRow
                  day={day}
                  isFirst={i === 0}
                  isOpen={open === day.on}
                  isTarget={over === day.on}
                  units={units}
                  onPress={() => setOpen(open === day.on ? undefined : day.on)}
                />
                {open === day.on && !wide ? <OpenDay on={day.on} rigs={rigs} ahead={ahead} handle={handle} /> : null}
                {planned && ahead ? <PlanCard day={planned} ahead={ahead} names={names} /> : null}
              </View>
            );
          })}
        </View>
        {count < DAYS_AHEAD ? (
          <TextButton onPress={() => setCount(DAYS_AHEAD)} testID="more-days">
            {`Further, to ${fullDay(addDays(today, DAYS_AHEAD - 1))}`}
          </TextButton>
        ) : null}
        <Legend />
        <Dates rigs={rigs} ahead={plain.ahead} today={today} />
        {wide ? null : side}
      </View>
    </Screen>
  );
}
