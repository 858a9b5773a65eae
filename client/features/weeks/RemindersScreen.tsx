import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { useQuery } from "@tanstack/react-query";
import type { Reminder } from "@winter-bead/core";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { Card } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { momentInWords } from "../../ui/format";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { fetchMailbox } from "./calendar-service";

function ReminderForm({ reminder }: { readonly reminder: Kept<"reminders"> | undefined }) {
  const parts = useMemo(
    () => ({
      reminder: {
        kind: "reminders" as const,
        before:
          reminder ??
          ({
            ...{ on: true, daysBefore: 1, quietFrom: 20, quietUntil: 7 },
            timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          } as Readonly<Record<string, unknown>>),
      },
    }),
    [reminder],
  );
  const form = useRecordForm({ name: `reminder:${reminder?.id ?? "new"}`, parts });
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["reminder"] as unknown as Reminder;
      return {
        ...(await (reminder ? change("reminders", reminder, body) : keep("reminders", body))),
        words: body.on ? `Kept: reminders go to ${body.to}.` : "Kept: no reminders are sent.",
      };
    });
  return (
    <RecordForm form={form}>
      <Body color="$soft">
        What is set for a day, and what has to be ordered by a day, so many days before; each of them once, and never in
        the quiet hours.
      </Body>
      <RecordField form={form} path="reminder.to" />
      <RecordField
        form={form}
        path="reminder.on"
        options={[
          { value: "yes", label: "Yes" },
          { value: "no", label: "No" },
        ]}
      />
      <FieldRow>
        <RecordField form={form} path="reminder.daysBefore" unit="" />
        <RecordField form={form} path="reminder.quietFrom" unit="o’clock" />
        <RecordField form={form} path="reminder.quietUntil" label="Quiet until" unit="o’clock" />
      </FieldRow>
      <RecordField form={form} path="reminder.timeZone" />
      <KeepRow form={form} kind="reminders" record={reminder} away="/weeks/reminders" onKeep={save}>
        Keep it
      </KeepRow>
    </RecordForm>
  );
}

const useMails = () =>
  useQuery({
    queryKey: ["mailbox"],
    queryFn: ({ signal }) => fetchMailbox(signal),
    retry: false,
    refetchInterval: 10_000,
  }).data;

/** What kept a mail from going out, if anything. */
function MailTrouble() {
  const trouble = useMails()?.trouble;
  return trouble ? (
    <Body role="alert" color="$rowan" testID="mail-trouble">
      {`${momentInWords(Date.parse(trouble.at), clockNow())}: ${trouble.words}`}
    </Body>
  ) : null;
}

/** Mails of the simulated mailbox: what would have been sent. */
function Mailbox() {
  const data = useMails();
  if (!data || data.real) return null;
  return (
    <View gap="$2" testID="mailbox">
      <Heading>What would have been sent</Heading>
      <Small>No mail server is named (WINTER_BEAD_SMTP): a simulated mailbox takes the mails in.</Small>
      {data.items.length === 0 ? <Body>Nothing yet.</Body> : null}
      {data.items.map(({ to, subject, text, at }) => (
        <Card key={`${at} ${subject}`} testID="mail">
          <Strong>{subject}</Strong>
          <Small>{`${momentInWords(Date.parse(at), clockNow())} to ${to}`}</Small>
          <Body whiteSpace="pre-wrap">{text}</Body>
        </Card>
      ))}
    </View>
  );
}

/** Reminders by mail: where to, how long before, and when never. */
export function RemindersScreen() {
  const { records, pending } = useRecords("reminders");
  const newest = [...records].sort((a, b) => (a.id < b.id ? 1 : -1))[0];
  return (
    <Screen title="Reminders by mail">
      <View gap="$5">
        <MailTrouble />
        {pending ? (
          <Body role="status">One moment…</Body>
        ) : (
          <ReminderForm key={newest?.version ?? "new"} reminder={newest} />
        )}
        <Mailbox />
      </View>
    </Screen>
  );
}
