import { View } from "@tamagui/core";
import { Pressable, TextButton } from "../../ui/boxes";
import { Body, Small, Strong } from "../../ui/words";
import { isHere, PLACES, RAIL_PLACES } from "./places";
import { SentState } from "./SentState";

/** Beside the place on a wide screen. */
export function Rail({ path, onKeys }: { readonly path: string; readonly onKeys: () => void }) {
  return (
    <View
      render="nav"
      aria-label="Places"
      className="not-printed"
      width={148}
      padding="$4"
      gap="$2"
      borderRightColor="$line"
      borderRightWidth={1}
      backgroundColor="$card"
    >
      <Strong fontSize="$3" lineHeight="$3" marginBottom="$3">
        Winter{"\n"}Bead
      </Strong>
      {RAIL_PLACES.map(({ path: place, name }, i) => {
        const here = isHere(path, place, true);
        return (
          <Pressable
            key={place}
            href={place}
            aria-current={here ? "page" : undefined}
            flexDirection="row"
            justifyContent="space-between"
            paddingHorizontal="$3"
            borderRadius="$2"
            backgroundColor={here ? "$ink" : "transparent"}
          >
            <Strong color={here ? "$onInk" : "$ink"} fontWeight={here ? "700" : "400"}>
              {name}
            </Strong>
            <Small color={here ? "$onInk" : "$soft"} aria-hidden>
              {i + 1}
            </Small>
          </Pressable>
        );
      })}
      <View flex={1} />
      <SentState />
      <TextButton href="/settings">Settings</TextButton>
      <TextButton onPress={onKeys}>Keys: ?</TextButton>
    </View>
  );
}

/** Under the place on a phone. */
export function Tabs({ path }: { readonly path: string }) {
  return (
    <View
      render="nav"
      aria-label="Places"
      className="not-printed tabs"
      flexDirection="row"
      borderTopColor="$line"
      borderTopWidth={1}
      backgroundColor="$card"
    >
      {PLACES.map(({ path: place, name }) => {
        const here = isHere(path, place, false);
        return (
          <Pressable key={place} href={place} aria-current={here ? "page" : undefined} flex={1} minHeight={58} gap="$1">
            <View width={here ? 28 : 8} height={4} borderRadius={2} backgroundColor={here ? "$ink" : "$line"} />
            <Body className="tab-name" fontSize="$1" fontWeight={here ? "800" : "400"} whiteSpace="nowrap">
              {name}
            </Body>
          </Pressable>
        );
      })}
    </View>
  );
}
