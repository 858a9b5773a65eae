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
  { litres: left, days: lasts, fillings, money, thrownAway }: ActWorth,
  currency: string,
  units: Units,
) {
  const until = `${litresRange(left.low, left.high, units)} from now${lasts === undefined ? "" : `, about ${days(lasts)}`}`;
  if (fillings === 0) return `${until}; nothing to pay now, and then all of them are spent.`;
  const wasted = `${litres(thrownAway.litres, units)} of resin life (${wholeMoney(thrownAway.money, currency)}) thrown away`;
  return `${until}; ${wholeMoney(money, currency)} now, ${wasted}.`;
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
