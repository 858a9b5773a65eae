import { View } from "@tamagui/core";
import { useState, type ReactNode } from "react";
import type { LayoutChangeEvent } from "react-native";

/** Draws what needs to know its width, once the width is known. */
export function Measured({ children }: { readonly children: (width: number) => ReactNode }) {
  const [width, setWidth] = useState(0);
  return (
    <View
      alignSelf="stretch"
      minWidth={0}
      onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)}
    >
      {width > 0 ? children(width) : null}
    </View>
  );
}
