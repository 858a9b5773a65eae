import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useEffect, useRef } from "react";
import { ScrollView } from "react-native";
import { Pressable } from "../../ui/boxes";
import { Body, Title } from "../../ui/words";
import type { RigView } from "../rack/useRigs";

/** Whose log this is, and those of the other rigs one tap away. */
export function LogRigs({
  here,
  others,
  onLeave,
}: {
  readonly here: RigView;
  readonly others: readonly RigView[];
  /** Before another rig's log opens. */
  readonly onLeave: (to: RigView) => void;
}) {
  const line = useRef<ScrollView>(null);
  useEffect(() => line.current?.scrollTo({ x: 0, animated: false }), [here.facts.rig.id]);
  return (
    <ScrollView
      ref={line}
      testID="log-rigs"
      horizontal
      showsHorizontalScrollIndicator={false}
      style={{ flex: 1, minWidth: 0 }}
    >
      <View flexDirection="row" alignItems="center" gap="$2">
        <Title fontSize="$3" lineHeight="$3" borderBottomColor="$ink" borderBottomWidth={3}>
          {here.facts.rig.name}
        </Title>
        {others.map((each) => {
          const { id, name } = each.facts.rig;
          return (
            <Pressable
              key={id}
              aria-label={`Log ${name} instead`}
              testID={`log-instead-${name}`}
              onPress={() => {
                onLeave(each);
                router.replace(`/log/${id}`);
              }}
              paddingHorizontal="$2"
            >
              <Body color="$soft">{name}</Body>
            </Pressable>
          );
        })}
      </View>
    </ScrollView>
  );
}
