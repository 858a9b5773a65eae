import { View } from "@tamagui/core";
import type { ActWorth } from "@winter-bead/core";
import { useSettings } from "../../data/settings";
import { litres, litresRange, type Units } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { days, wholeMoney } from "../size/money";
import { usePrices } from "../size/usePrices";
import { actWords, bedNames } from "./train-views";
import type { RigView } from "./useRigs";

/** Litres, days and money of an act. @example worthWords(worth, "EUR", "metric") // "2,800 to 4,100 L, about 33 days. …" */
export function worthWords(
  { litres: left, days: lasts, fillings, money, thrownAway, runsUntil }: ActWorth,
  currency: string,
  units: Units,
) {
  const lasting = (many: number | undefined) => (many === undefined ? "" : `, about ${days(many)}`);
  const until = `${litresRange(left.low, left.high, units)} from now${lasting(lasts)}`;
  if (fillings === 0) return `${until}; nothing to pay now, and then all of them are spent.`;
  const wasted = `${litres(thrownAway.litres, units)} of resin life (${wholeMoney(thrownAway.money, currency)}) thrown away`;
  if (!runsUntil) return `${until}; ${wholeMoney(money, currency)} now, ${wasted}.`;
  const share = Math.round(100 * runsUntil.risk);
  const risk = share < 1 ? "hardly ever" : `in ${share} of 100 futures`;
  return `${until}; the lead lasts about ${litres(runsUntil.litres, units)} more${lasting(runsUntil.days)}, then ${wholeMoney(money, currency)}, ${wasted}. The last one reaches its mark before that ${risk}.`;
}

/** What can be done with a train whose lead is spent, each act with what it would give. */
export function ActsWorth({ view }: { readonly view: RigView }) {
  const { units } = useSettings();
  const { currency, from } = usePrices();
  const worth = view.assessment?.worth;
  if (!worth) return null;
  const names = bedNames(view);
  return (
    <View gap="$2" testID="acts-worth">
      <Heading>What each would give</Heading>
      {worth.map((each) => (
        <View key={each.act} testID={`worth-${each.act}`}>
          <Strong>{actWords(each.act, names)}</Strong>
          <Body>{worthWords(each, currency, units)}</Body>
        </View>
      ))}
      <Small>{`Every bed as it is believed now, fresh ones as your charges usually are; ${from}.`}</Small>
    </View>
  );
}
