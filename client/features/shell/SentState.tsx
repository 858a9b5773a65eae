import { useEffect, useState } from "react";
import { useReach } from "../../data/reach";
import { useOutbox } from "../../data/store";
import { Pressable } from "../../ui/boxes";
import { Small } from "../../ui/words";
import { sentWords } from "./sent-words";

const LOOK_EVERY = 15_000;

/** The present, renewed often enough for words about minutes. */
function useClock(): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), LOOK_EVERY);
    return () => clearInterval(timer);
  }, []);
  return now;
}

export function SentState() {
  const clock = useClock();
  const reach = useReach();
  const words = sentWords(useOutbox(), reach, Math.max(clock, reach.answeredAt ?? 0));
  return (
    <Pressable
      href="/settings"
      minHeight={48}
      alignItems="flex-start"
      testID="sent-state"
      aria-label={`${words}; settings and what is unsent`}
    >
      <Small role="status">{words}</Small>
    </Pressable>
  );
}
