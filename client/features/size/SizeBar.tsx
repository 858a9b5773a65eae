import { View } from "@tamagui/core";
import { AnswerFrame } from "../../ui/AnswerFrame";
import { Big, Body, Small } from "../../ui/words";

/** Said of an answer that still stands while a figure is missing. */
export const OF_BEFORE = "This is of the figures before.";

/** The answer of a place of sizing, in sight over what is typed; its height is kept. */
export function SizeBar({
  name,
  value,
  under,
  trouble,
  waiting,
}: {
  readonly name: string | undefined;
  readonly value: string | undefined;
  readonly under: string | undefined;
  /** What keeps the figures as they stand from an answer: then this one is of those before. */
  readonly trouble: string | undefined;
  /** Said before there is any answer. */
  readonly waiting: string;
}) {
  return (
    <AnswerFrame testID="size-bar">
      {name === undefined ? (
        <Body role={trouble ? "alert" : "status"}>{trouble ?? waiting}</Body>
      ) : (
        <>
          <Small numberOfLines={1}>{name}</Small>
          <View flexDirection="row" alignItems="baseline" gap="$2" opacity={trouble ? 0.5 : 1}>
            <Big testID="bar-value">{value}</Big>
            {trouble ? null : (
              <Small color="$ink" flexShrink={1}>
                {under}
              </Small>
            )}
          </View>
          {trouble ? <Small role="alert" color="$rowan">{`${trouble} ${OF_BEFORE}`}</Small> : null}
        </>
      )}
    </AnswerFrame>
  );
}
