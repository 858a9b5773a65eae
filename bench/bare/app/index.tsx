import { Text, View } from "@tamagui/core";

export default function Index() {
  return (
    <View>
      <Text>bare</Text>
    </View>
  );
}
