import { View } from "@tamagui/core";
import { useClockAhead } from "../../data/clock";
import { Choice } from "../../ui/boxes";
import { dayMonthYear, timeOfDay } from "../../ui/dates";
import { localDate } from "../../ui/format";
import { Small } from "../../ui/words";

const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];

/** Which time a visit is kept under. */
export type TimeOf = "right" | "phone";

/** How far a clock is off. @example offInWords(7_500_000) // "2 hours" */
export function offInWords(ahead: number): string {
  const off = Math.abs(ahead);
  const [count, unit] =
    off < 2 * HOUR ? [off / MINUTE, "minutes"] : off < 2 * DAY ? [off / HOUR, "hours"] : [off / DAY, "days"];
  return `${Math.round(count)} ${unit}`;
}

/** What tells a moment from the other: the hour on the same day, else the day; both stand in one row. */
const momentOf = (moment: number, other: number) =>
  localDate(moment) === localDate(other) ? timeOfDay(moment) : dayMonthYear(moment);

/** Said before anything is kept where this phone's clock is off, with the right time at hand; nothing else asks for it. */
export function ClockQuestion({
  value,
  onChange,
}: {
  readonly value: TimeOf;
  readonly onChange: (value: TimeOf) => void;
}) {
  const ahead = useClockAhead();
  if (ahead === 0) return null;
  const phone = Date.now();
  const right = phone - ahead;
  return (
    <View gap="$1" testID="clock-question">
      <Small role="alert" color="$rowan">
        {`This phone's clock is ${offInWords(ahead)} ${ahead > 0 ? "ahead" : "behind"}. Logged under:`}
      </Small>
      <Choice
        hideLabel
        label="Which time it is logged under"
        value={value}
        options={[
          { value: "right", label: `Right, ${momentOf(right, phone)}` },
          { value: "phone", label: `Phone, ${momentOf(phone, right)}` },
        ]}
        onChange={onChange}
      />
    </View>
  );
}
