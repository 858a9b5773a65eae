import { View } from "@tamagui/core";
import { useEffect, useState } from "react";
import { Body, Strong } from "../../ui/words";
import { clockWords, secondsToRun } from "./asks";

const SECOND = 1000;
/** ms that the phone shakes once the minute is over, where it can. */
const SHAKE = 300;

/** The minute that the water runs before it is looked at again; who reads sooner may. */
export function LookAgain({ at }: { readonly at: number }) {
  const [now, setNow] = useState(() => Date.now());
  const seconds = secondsToRun(at, now);
  const isOver = seconds === 0;
  useEffect(() => {
    if (isOver) return undefined;
    const timer = setInterval(() => {
      setNow(Date.now());
      if (secondsToRun(at, Date.now()) === 0) (navigator as Partial<Navigator>).vibrate?.(SHAKE);
    }, SECOND);
    return () => clearInterval(timer);
  }, [at, isOver]);
  return isOver ? (
    <Body role="status" testID="look-again-now">
      Now read it again.
    </Body>
  ) : (
    <View flexDirection="row" alignItems="baseline" gap="$2" role="timer" testID="look-again-timer">
      <Body>Let it run, then read again:</Body>
      <Strong fontSize="$4">{clockWords(seconds)}</Strong>
    </View>
  );
}
