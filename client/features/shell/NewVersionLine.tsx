import { View } from "@tamagui/core";
import { Pressable } from "../../ui/boxes";
import { Body, Strong } from "../../ui/words";
import { useNewerShape } from "../../data/newer-shape";
import { takeNewVersion, useNewVersion } from "./new-version";

/** A new version offers itself and waits to be taken. */
export function NewVersionLine() {
  const waiting = useNewVersion();
  const older = useNewerShape();
  if (!waiting && !older) return null;
  return (
    <View
      role="status"
      testID="new-version"
      className="not-printed"
      flexDirection="row"
      flexWrap="wrap"
      alignItems="center"
      justifyContent="space-between"
      columnGap="$3"
      backgroundColor="$ice"
      paddingHorizontal="$4"
    >
      <Body flexShrink={1}>
        {older
          ? "The server keeps some of this in a newer form than this page reads. Load the new version; what you typed stays."
          : "A new version is here. What you typed stays."}
      </Body>
      <Pressable onPress={waiting ? takeNewVersion : () => location.reload()} testID="take-new-version">
        <Strong textDecorationLine="underline">Use it now</Strong>
      </Pressable>
    </View>
  );
}
