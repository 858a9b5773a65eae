import { useDraft } from "../../data/draft";
import { useHalfFilled } from "../../ui/half-filled";
import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { addDays, type Rig } from "@winter-bead/core";
import { useState } from "react";
import { Refused } from "../../data/api";
import { act, settled, useRecords } from "../../data/store";
import { Card, Choice, HeavyButton, PlainButton } from "../../ui/boxes";
import { FilePicker } from "../../ui/files";
import { TextField } from "../../ui/fields";
import { localDate } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Small, Strong } from "../../ui/words";
import { fetchCalendar, useSampleCalendar } from "./calendar-service";
import type { CalendarRead } from "./calendar-read";
import { readInWorker, stopReading } from "./calendar-reader";
import { calendarSteps } from "./calendar-steps";
import { fullDay } from "./words";

/** A year ahead is taken. */
const DAYS = 366;
/** ms after which what is not sent yet is said to wait. */
const TOLD_WITHIN = 5_000;

function Preview({
  read,
  rigs,
  onDone,
  onTaken,
}: {
  readonly read: CalendarRead;
  readonly rigs: readonly Rig[];
  readonly onDone: () => void;
  readonly onTaken: () => void;
}) {
  const { records: bookings } = useRecords("bookings");
  const [rigId, setRigId] = useState(rigs[0]?.id);
  const [as, setAs] = useState<"work" | "off">("work");
  const steps = rigId === undefined ? [] : calendarSteps(read, rigId, bookings, as);
  const [trouble, setTrouble] = useState<string>();
  const [sending, setSending] = useState(false);
  const take = async () => {
    const rig = rigs.find(({ id }) => id === rigId)!;
    const count = `${steps.length} ${steps.length === 1 ? "booking" : "bookings"}`;
    setSending(true);
    setTrouble(undefined);
    try {
      const { id, undo } = await act(`Calendar taken for ${rig.name}`, steps);
      const became = await settled(id, TOLD_WITHIN);
      if (became.is === "refused") return setTrouble(`Not taken: ${became.words}`);
      const words =
        became.is === "sent"
          ? `${count} taken for ${rig.name}.`
          : `${count} for ${rig.name} wait on this device until the server answers.`;
      showToast({ words, undo });
      onTaken();
      onDone();
    } catch (error) {
      setTrouble((error as Error).message);
    } finally {
      setSending(false);
    }
  };
  return (
    <Card testID="calendar-preview">
      <Strong>{`${read.items.length} days in the year to come.`}</Strong>
      {read.faults.map((fault) => (
        <Body key={fault} color="$rowan">
          {fault}
        </Body>
      ))}
      {rigs.length > 1 ? (
        <Choice
          label="For which rig"
          value={rigId}
          options={rigs.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setRigId}
        />
      ) : null}
      <Choice
        label="Its days are"
        value={as}
        options={[
          { value: "work", label: "Work" },
          { value: "off", label: "Days off" },
        ]}
        onChange={setAs}
      />
      {read.items.slice(0, 8).map(({ key, on, title, jobs, cancelled }) => (
        <Small
          key={key}
        >{`${fullDay(on)}: ${title}${cancelled ? ", called off" : as === "off" ? "" : `, ${jobs} ${jobs === 1 ? "job" : "jobs"}`}`}</Small>
      ))}
      {read.items.length > 8 ? <Small>{`and ${read.items.length - 8} more`}</Small> : null}
      {steps.length === 0 ? (
        <Body>All of it is booked already.</Body>
      ) : (
        <HeavyButton onPress={() => void take()} disabled={sending} testID="take-calendar">
          {`Take ${steps.length} into the weeks`}
        </HeavyButton>
      )}
      {trouble === undefined ? null : (
        <Body role="alert" color="$rowan" testID="calendar-refused">
          {trouble}
        </Body>
      )}
      <PlainButton onPress={onDone}>Leave it</PlainButton>
    </Card>
  );
}

/** Work out of a calendar: from a file, or from an address that the server asks. */
export function CalendarIn({ rigs }: { readonly rigs: readonly Rig[] }) {
  const [read, setRead] = useState<CalendarRead>();
  const [{ address }, patch, clear] = useDraft("calendar-address", { address: "" });
  useHalfFilled(address.trim() !== "");
  const [trouble, setTrouble] = useState<string>();
  const sample = useSampleCalendar();
  const [share, setShare] = useState<number>();
  const look = async (text: string) => {
    const today = localDate(clockNow());
    setTrouble(undefined);
    setShare(0);
    try {
      setRead(await readInWorker(text, today, addDays(today, DAYS), setShare));
    } catch {
      setTrouble("This calendar could not be read on this device just now; try it again.");
    } finally {
      setShare(undefined);
    }
  };
  const ask = async () => {
    try {
      await look(await fetchCalendar(address.trim()));
    } catch (error) {
      setTrouble(
        error instanceof Refused ? error.message : "The server is out of reach: a calendar's address needs a signal.",
      );
    }
  };
  if (rigs.length === 0) return null;
  if (share !== undefined)
    return (
      <View gap="$2" role="status">
        <Body>{`Reading the calendar, ${Math.round(100 * share)} %`}</Body>
        <PlainButton onPress={stopReading}>Stop</PlainButton>
      </View>
    );
  if (read) return <Preview read={read} rigs={rigs} onDone={() => setRead(undefined)} onTaken={clear} />;
  return (
    <View gap="$2">
      <FilePicker
        label="Open a calendar file"
        accept=".ics,text/calendar"
        onFile={(file) => void file.text().then(look)}
        testID="calendar-in"
      />
      <TextField
        label="or the address of a calendar"
        value={address}
        onChange={(text) => patch({ address: text })}
        {...(sample ? { hint: `To try it: ${sample}` } : {})}
        error={trouble}
        testID="calendar-address"
      />
      {address.trim() === "" ? null : (
        <PlainButton onPress={() => void ask()} testID="ask-calendar">
          Look at this calendar
        </PlainButton>
      )}
    </View>
  );
}
