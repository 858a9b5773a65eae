import { clockNow } from "../../data/clock";
import { addDays, type Booking, type DayOff, type Rig, type UsualWeek } from "@winter-bead/core";
import { bookedLitres } from "@winter-bead/core/src/weeks";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { inUse } from "../../data/in-use";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { capital, litres, localDate } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body, Small } from "../../ui/words";
import { fullDay } from "./words";

const BOOKED_WAYS = [
  { value: "jobs", label: "Jobs" },
  { value: "litres", label: "Water" },
  { value: "off", label: "Off" },
];

const rigOptions = (rigs: readonly Rig[]) => rigs.map(({ id, name }) => ({ value: id, label: name }));

/** Kinds of job that were booked before, the newest first: one tap fills kind and water. */
function KnownKinds({
  rigId,
  onChoose,
}: {
  readonly rigId: string;
  readonly onChoose: (jobName: string, litresEach: number | undefined) => void;
}) {
  const { records } = useRecords("bookings");
  const kinds = new Map<string, number | undefined>();
  for (const { booked, rigId: of } of [...records].sort((a, b) => (a.on < b.on ? 1 : -1)))
    if (of === rigId && booked.by === "jobs" && booked.jobName && !kinds.has(booked.jobName))
      kinds.set(booked.jobName, booked.litresEach);
  if (kinds.size === 0) return null;
  return (
    <FieldRow>
      {[...kinds].slice(0, 5).map(([name, each]) => (
        <TextButton key={name} onPress={() => onChoose(name, each)}>
          {name}
        </TextButton>
      ))}
    </FieldRow>
  );
}

function BookingForm({
  booking,
  rig,
  on,
}: {
  readonly booking: Kept<"bookings"> | undefined;
  readonly rig: Rig;
  readonly on: string;
}) {
  const { records } = useRecords("rigs");
  const rigs = inUse(records, booking?.rigId);
  const parts = useMemo(
    () => ({
      booking: { kind: "bookings" as const, before: booking ?? { rigId: rig.id, on, booked: { by: "jobs" } } },
    }),
    [booking, rig, on],
  );
  const form = useRecordForm({ name: `booking:${booking?.id ?? `${rig.id}:${on}`}`, parts });
  const by = form.watch("booking.booked.by");
  const body = form.bodiesNow()["booking"] as unknown as Booking;
  const of = rigs.find(({ id }) => id === body.rigId) ?? rig;
  const water =
    by === "jobs" && Number.isFinite(bookedLitres(body.booked, of)) ? bookedLitres(body.booked, of) : undefined;
  const save = () =>
    keepTyped(form, async (bodies) => {
      const typed = bodies["booking"] as unknown as Booking;
      return {
        ...(await (booking ? change("bookings", booking, typed) : keep("bookings", typed))),
        words: `Booked for ${fullDay(typed.on)}.`,
        away: "/weeks",
      };
    });
  return (
    <RecordForm form={form}>
      {rigs.length > 1 ? <RecordField form={form} path="booking.rigId" options={rigOptions(rigs)} /> : null}
      <RecordField form={form} path="booking.on" />
      <RecordField form={form} path="booking.booked.by" label="What is booked" options={BOOKED_WAYS} />
      {by === "jobs" ? (
        <>
          <FieldRow>
            <RecordField form={form} path="booking.booked.jobs" label={capital(`${of.jobName}s`)} />
            <RecordField
              form={form}
              path="booking.booked.litresEach"
              hint={`Empty: ${litres(of.litresPerJob, form.units)}, as usual`}
            />
          </FieldRow>
          <RecordField
            form={form}
            path="booking.booked.jobName"
            hint={`Empty: ${of.jobName}. A first clean takes far more.`}
          />
          <KnownKinds
            rigId={of.id}
            onChoose={(name, each) => {
              form.setValue("booking.booked.jobName" as never, name as never);
              if (each !== undefined) form.setValue("booking.booked.litresEach" as never, String(each) as never);
            }}
          />
          {water === undefined ? null : <Body>{`Takes ${litres(water, form.units)}.`}</Body>}
        </>
      ) : null}
      {by === "litres" ? <RecordField form={form} path="booking.booked.litres" /> : null}
      <RecordField form={form} path="booking.name" />
      <RecordField form={form} path="booking.note" label="Note" />
      {booking?.fromCalendar ? <Small>It came from a calendar: the same file brings it only once.</Small> : null}
      <KeepRow form={form} kind="bookings" record={booking} away="/weeks" onKeep={save}>
        {booking ? "Keep the change" : "Book it"}
      </KeepRow>
    </RecordForm>
  );
}

/** A booking: looked at, moved, corrected, taken back; or a new one. */
export function BookingPlace() {
  const { rig, on } = useLocalSearchParams<{ rig?: string; on?: string }>();
  const { record, ready, unknown } = useNamed("bookings");
  const { records: rigs, pending } = useRecords("rigs");
  const found = rigs.find(({ id }) => id === (record?.rigId ?? rig)) ?? (record ? undefined : inUse(rigs)[0]);
  if (unknown || (!found && !pending)) return <NotHere what="booking" href="/weeks" way="To the weeks" />;
  return (
    <Screen title={record ? "A booking" : "Book work"}>
      {ready && found ? (
        <BookingForm
          key={record?.version ?? "new"}
          booking={record}
          rig={found}
          on={on ?? addDays(localDate(clockNow()), 1)}
        />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}

const WEEKDAYS = ["monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"] as const;
const NO_JOBS = Object.fromEntries(WEEKDAYS.map((day) => [day, 0]));

function UsualWeekForm({
  week,
  rigs,
}: {
  readonly week: Kept<"usual-weeks"> | undefined;
  readonly rigs: readonly Rig[];
}) {
  const first = rigs[0]!.id;
  const parts = useMemo(
    () => ({
      week: {
        kind: "usual-weeks" as const,
        before: week ?? { rigId: first, from: localDate(clockNow()), jobs: NO_JOBS },
      },
    }),
    [week, first],
  );
  const form = useRecordForm({ name: `usual-week:${week?.id ?? "new"}`, parts });
  const save = () =>
    keepTyped(form, async (bodies) => {
      const typed = bodies["week"] as unknown as UsualWeek;
      return {
        ...(await (week ? change("usual-weeks", week, typed) : keep("usual-weeks", typed))),
        words: "Kept: a usual week. Bookings and days off go before it.",
        away: "/weeks/work",
      };
    });
  const rig = rigs.find(({ id }) => id === form.watch("week.rigId"));
  return (
    <RecordForm form={form}>
      {rigs.length > 1 ? <RecordField form={form} path="week.rigId" options={rigOptions(rigs)} /> : null}
      <RecordField form={form} path="week.name" hint="Summer, school term: leave it empty for the whole year." />
      <FieldRow>
        <RecordField form={form} path="week.from" />
        <RecordField form={form} path="week.until" hint="Empty: goes on." />
      </FieldRow>
      <Small>{capital(`${rig?.jobName ?? "job"}s on a usual`)}</Small>
      <FieldRow>
        {WEEKDAYS.map((day) => (
          <RecordField key={day} form={form} path={`week.jobs.${day}`} />
        ))}
      </FieldRow>
      <KeepRow form={form} kind="usual-weeks" record={week} away="/weeks/work" onKeep={save}>
        Keep this week
      </KeepRow>
    </RecordForm>
  );
}

/** Jobs by weekday over a season. */
export function UsualWeekPlace() {
  const { record, ready, unknown } = useNamed("usual-weeks");
  const { records, pending } = useRecords("rigs");
  const rigs = inUse(records, record?.rigId);
  if (unknown || (rigs.length === 0 && !pending)) return <NotHere what="week" href="/weeks/work" way="To the work" />;
  return (
    <Screen title="A usual week">
      {ready && rigs.length > 0 ? (
        <UsualWeekForm key={record?.version ?? "new"} week={record} rigs={rigs} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}

function DayOffForm({ off, rigs }: { readonly off: Kept<"days-off"> | undefined; readonly rigs: readonly Rig[] }) {
  const tomorrow = useMemo(() => addDays(localDate(clockNow()), 1), []);
  const parts = useMemo(
    () => ({ off: { kind: "days-off" as const, before: off ?? { from: tomorrow, until: tomorrow } } }),
    [off, tomorrow],
  );
  const form = useRecordForm({
    name: `day-off:${off?.id ?? "new"}`,
    parts,
    compose: ({ off: typed }) => ({ off: { ...typed, rigId: typed!["rigId"] === "" ? undefined : typed!["rigId"] } }),
  });
  const save = () =>
    keepTyped(form, async (bodies) => {
      const typed = bodies["off"] as unknown as DayOff;
      return {
        ...(await (off ? change("days-off", off, typed) : keep("days-off", typed))),
        words: "Kept: days off.",
        away: "/weeks/work",
      };
    });
  return (
    <RecordForm form={form}>
      <RecordField
        form={form}
        path="off.rigId"
        label="Of"
        options={[{ value: "", label: "All rigs" }, ...rigOptions(rigs)]}
      />
      <FieldRow>
        <RecordField form={form} path="off.from" />
        <RecordField form={form} path="off.until" />
      </FieldRow>
      <RecordField form={form} path="off.name" />
      <KeepRow form={form} kind="days-off" record={off} away="/weeks/work" onKeep={save}>
        Keep these days
      </KeepRow>
    </RecordForm>
  );
}

/** Days without work. */
export function DayOffPlace() {
  const { record, ready, unknown } = useNamed("days-off");
  const { records } = useRecords("rigs");
  if (unknown) return <NotHere what="day off" href="/weeks/work" way="To the work" />;
  return (
    <Screen title="Days off">
      {ready ? (
        <DayOffForm key={record?.version ?? "new"} off={record} rigs={inUse(records, record?.rigId)} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
