import { View } from "@tamagui/core";
import { Pressable } from "../../ui/boxes";
import { Small } from "../../ui/words";
import type { Guide } from "./useGuide";

/** How far the work has come: filled is done, hollow is open, crossed out is left out; the larger one is looked at. */
export function Dots({
  guide,
  at,
  onGo,
}: {
  readonly guide: Guide;
  readonly at: number;
  readonly onGo: (at: number) => void;
}) {
  const count = guide.steps.length;
  return (
    <View gap={2}>
      <View flexDirection="row" alignItems="center" justifyContent="space-between" height={16} aria-hidden>
        {guide.steps.map((step, i) => {
          const state = guide.work?.steps.get(step.id)?.outcome;
          const here = i === at;
          return (
            <View
              key={step.id}
              width={here ? 14 : 9}
              height={here ? 14 : 9}
              borderRadius={7}
              borderWidth={here ? 3 : 1.6}
              borderColor={state === "failed" ? "$rowan" : "$ink"}
              borderStyle={state === "skipped" ? "dotted" : "solid"}
              backgroundColor={state === "done" ? "$ink" : "transparent"}
            />
          );
        })}
      </View>
      {at === guide.open || at >= count ? null : (
        <Pressable onPress={() => onGo(guide.open)} testID="to-open" minHeight={44} alignItems="flex-end">
          <Small textDecorationLine="underline">To the open step</Small>
        </Pressable>
      )}
    </View>
  );
}
