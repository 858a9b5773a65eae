import { View } from "@tamagui/core";
import { isExample, leaveExample } from "../../data/example";
import { TextButton } from "../../ui/boxes";
import { Body } from "../../ui/words";

/** Says in every place that what stands there is invented, and leads back. */
export function ExampleLine() {
  if (!isExample) return null;
  return (
    <View
      role="status"
      testID="example-line"
      className="not-printed"
      flexDirection="row"
      alignItems="center"
      justifyContent="space-between"
      columnGap="$3"
      backgroundColor="$ice"
      paddingHorizontal="$4"
    >
      <Body flexShrink={1}>An invented crew. Try anything: nothing is sent or kept.</Body>
      <View flexShrink={0}>
        <TextButton onPress={leaveExample} testID="leave-example">
          Leave it
        </TextButton>
      </View>
    </View>
  );
}
