import { View } from "@tamagui/core";
import type { Order, WeeksAhead } from "@winter-bead/core";
import { cartridgesOf, isEmpty } from "@winter-bead/core/src/weeks";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";
import { dateInWords, shown, type Units } from "../../ui/format";
import { Body, Heading, Strong } from "../../ui/words";
import { giveUp } from "./deeds";
import { fullDay, taskWords } from "./words";

const GRADES = { virgin: "virgin", dyed: "virgin, dyed", regenerated: "regenerated" } as const;

/** @example orderWords(order, "2026-11-27", "metric") // "Order 12 L of virgin, dyed by Wed 9 Dec." */
export function orderWords({ by, lines }: Order, today: string, units: Units): string {
  const what = lines
    .map((line) => {
      const { text, unit } = shown("resinVolume", line.litres, units);
      const grade = GRADES[line.grade];
      return line.form === "loose"
        ? `${text} ${unit} of ${grade}`
        : `${cartridgesOf(line)} of ${grade} (${text} ${unit})`;
    })
    .join(" and ");
  return by < today ? `Order ${what} today: it may come too late.` : `Order ${what} by ${dateInWords(by, today)}.`;
}

/** Beside the days: what to order, what stands on the shelf, and the ways to the rest of the weeks. */
export function Ahead({
  ahead,
  names,
  today,
}: {
  readonly ahead: WeeksAhead | undefined;
  readonly names: Parameters<typeof taskWords>[1];
  readonly today: string;
}) {
  const { units } = useSettings();
  const { records: appointments } = useRecords("appointments");
  const stock = ahead?.stock.filter((each) => !isEmpty(each)) ?? [];
  const litres = stock.reduce((sum, { left }) => sum + Math.max(0, left), 0);
  const { text, unit } = shown("resinVolume", litres, units);
  return (
    <View gap="$4" paddingTop="$3">
      {ahead && ahead.missed.length > 0 ? (
        <View gap="$1">
          <Heading>Left undone</Heading>
          {ahead.missed.map((each) => (
            <View key={each.id} flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$3">
              <Body>{`${taskWords(each, names)}: was set for ${fullDay(each.on)}.`}</Body>
              <TextButton onPress={() => void giveUp(appointments.filter(({ id }) => id === each.id))}>
                Not any more
              </TextButton>
            </View>
          ))}
        </View>
      ) : null}
      <View gap="$1">
        <Heading>Resin</Heading>
        {ahead?.orders.map((order) => (
          <Strong key={order.by} testID="order" color={order.by <= today ? "$rowan" : "$ink"}>
            {orderWords(order, today, units)}
          </Strong>
        ))}
        {ahead ? <Body>{`${text} ${unit} in ${stock.length} ${stock.length === 1 ? "bag" : "bags"}.`}</Body> : null}
        <TextButton href="/weeks/stock">Stock: bags, orders, spent resin</TextButton>
      </View>
      <View gap="$1">
        <Heading>Work and upkeep</Heading>
        <TextButton href="/weeks/work">Usual weeks, days off, calendars</TextButton>
        <TextButton href="/weeks/upkeep">Upkeep: cartridges, seals, meters</TextButton>
        <TextButton href="/weeks/reminders">Reminders by mail</TextButton>
        <TextButton href="/refill/practice" testID="to-practice">
          Practise a refill, nothing is kept
        </TextButton>
      </View>
    </View>
  );
}
