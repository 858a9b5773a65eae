import { View } from "@tamagui/core";
import type { ActWorth, TrainAct } from "@winter-bead/core";
import { useSettings } from "../../data/settings";
import { litres, litresRange, type Units } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { days, wholeMoney } from "../size/money";
import { usePrices } from "../size/usePrices";
import type { RigFacts } from "./assess";
import { vesselsHere } from "./train-views";

/** What an act is, by the names of the vessels. */
function actWords(act: TrainAct, facts: RigFacts): string {
  const [lead, ...others] = vesselsHere(facts).map(({ name }) => name);
  if (act === "rotate") return `Refill ${lead} now, ${others[0]} leads`;
  return act === "run-out" ? `Use ${lead} up first` : "Refill all of them now";
}

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

/** What can be done with a train, each act with what it would give. */
export function ActsWorth({ facts, worth }: { readonly facts: RigFacts; readonly worth: readonly ActWorth[] }) {
  const { units } = useSettings();
  const { currency, from } = usePrices();
  return (
    <View gap="$2" testID="acts-worth">
      <Heading>What each would give</Heading>
      {worth.map((each) => (
        <View key={each.act} testID={`worth-${each.act}`}>
          <Strong>{actWords(each.act, facts)}</Strong>
          <Body>{worthWords(each, currency, units)}</Body>
        </View>
      ))}
      <Small>{`Every bed as it is believed now, fresh ones as your charges usually are; ${from}.`}</Small>
    </View>
  );
}
