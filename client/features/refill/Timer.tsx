import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { TIMERS, type GuideStep, type StepState } from "@winter-bead/core/src/refill";
import { useEffect, useRef, useState } from "react";
import { PlainButton } from "../../ui/boxes";
import { Body, Huge, Small, Strong } from "../../ui/words";
import { ring, wakeBell } from "./bell";
import { runningWords, timerWords } from "./words";

/** Milliseconds until an instant, told each second; below 0 since it is over. */
function useLeft(until: string | undefined): number | undefined {
  const [now, setNow] = useState(() => clockNow());
  useEffect(() => {
    if (until === undefined) return;
    setNow(clockNow());
    const timer = setInterval(() => setNow(clockNow()), 1000);
    return () => clearInterval(timer);
  }, [until]);
  return until === undefined ? undefined : Date.parse(until) - now;
}

/** Rung when it turned to over under this page's eyes; a time that was over before is not rung again. */
function useBell(left: number | undefined): void {
  const ran = useRef(false);
  useEffect(() => {
    if (left === undefined) return;
    if (left > 0) ran.current = true;
    else if (ran.current) {
      ran.current = false;
      ring();
    }
  }, [left]);
}

/** A time to wait: kept as the instant at which it ends, so that it is right after a closed tab and on another phone. */
export function Timer({
  step,
  state,
  onStart,
}: {
  readonly step: GuideStep & { readonly timer: keyof typeof TIMERS };
  readonly state: StepState | undefined;
  readonly onStart: (until: string) => void;
}) {
  const running = state?.outcome === "waiting" ? state.until : undefined;
  const left = useLeft(running);
  useBell(left);
  const { name, minutes } = TIMERS[step.timer];
  const start = () => {
    wakeBell();
    onStart(new Date(clockNow() + 60_000 * minutes).toISOString());
  };
  if (left === undefined)
    return (
      <View flexDirection="row" alignItems="center" gap="$3" flexWrap="wrap">
        <PlainButton onPress={start} testID="start-timer">{`Start ${timerWords(step.timer)}`}</PlainButton>
        <Small flexShrink={1}>{`${name}: a planning assumption. It rings while this page is open.`}</Small>
      </View>
    );
  const isOver = left <= 0;
  return (
    <View gap={2}>
      <Small>{name}</Small>
      <View flexDirection="row" alignItems="baseline" gap="$3">
        <Huge testID="timer" {...{ role: "timer" }}>
          {runningWords(left)}
        </Huge>
        <Strong>{isOver ? "over since then" : "left"}</Strong>
      </View>
      <Body role="status">{isOver ? `${name} is over.` : ""}</Body>
      <Small>{isOver ? "" : "It rings while this page is open, and is right when you come back."}</Small>
    </View>
  );
}
