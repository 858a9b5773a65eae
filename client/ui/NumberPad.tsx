import { View } from "@tamagui/core";
import { memo } from "react";
import { Body } from "./words";
import { Pressable } from "./boxes";

const KEYS = ["1", "2", "3", "4", "5", "6", "7", "8", "9", ".", "0", "back"] as const;

/** ms that the phone shakes under a glove, where it can. */
const SHAKE = 8;

/** Digits for a wet glove: twelve keys of at least 48 px. */
export const NumberPad = memo(function NumberPad({ onKey }: { readonly onKey: (key: string) => void }) {
  const press = (key: string) => {
    (navigator as Partial<Navigator>).vibrate?.(SHAKE);
    onKey(key);
  };
  return (
    <View flexDirection="row" flexWrap="wrap" gap={6} role="group" aria-label="Number pad">
      {KEYS.map((key) => (
        <Pressable
          key={key}
          onPress={() => press(key)}
          aria-label={key === "back" ? "Delete the last digit" : key === "." ? "Point" : key}
          flexBasis="30%"
          flexGrow={1}
          height={50}
          backgroundColor="$card"
          borderColor="$line"
          borderWidth={2}
          borderRadius="$2"
        >
          <Body fontSize="$5" fontWeight="700">
            {key === "back" ? "⌫" : key}
          </Body>
        </Pressable>
      ))}
    </View>
  );
});

const MOST_DIGITS = 9;

/** The text after a key of the pad. */
export function typed(text: string, key: string): string {
  if (key === "back") return text.slice(0, -1);
  if (key === "." && text.includes(".")) return text;
  if (text.replace(".", "").length >= MOST_DIGITS) return text;
  if (key === "." && text === "") return "0.";
  return text === "0" && key !== "." ? key : text + key;
}
