import { View } from "@tamagui/core";
import { useSettings } from "../../data/settings";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { usePrices } from "../size/usePrices";
import { actWords, bedNames } from "./train-views";
import { worthWords } from "./worth-words";
import type { RigView } from "./useRigs";

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
