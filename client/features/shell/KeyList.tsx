import { View } from "@tamagui/core";
import { createElement, useEffect, useRef } from "react";
import { TextButton } from "../../ui/boxes";
import { Body, Heading, Strong } from "../../ui/words";
import { RAIL_PLACES } from "./places";

const SHORTCUTS: readonly (readonly [string, string])[] = [
  ...RAIL_PLACES.map(({ name }, i) => [String(i + 1), name] as const),
  ["L", "Log the rig that is chosen"],
  ["← →", "Look a step back or on, in a refill"],
  ["Alt ↑ ↓", "Move a booking a day, in Weeks"],
  [",", "Settings"],
  ["?", "This list"],
];

/** The list of keys, in the platform's own dialog: it holds the focus, closes by Escape and gives the focus back. */
export function KeyList({ onClose }: { readonly onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const list = (
    <View
      backgroundColor="$card"
      borderColor="$ink"
      borderWidth={2}
      borderRadius="$3"
      padding="$4"
      gap="$2"
      minWidth={260}
    >
      <Heading>Keys</Heading>
      {SHORTCUTS.map(([key, what]) => (
        <Body key={key}>
          <Strong>{key}</Strong> {what}
        </Body>
      ))}
      <Body color="$soft">
        Digits and the comma lead nowhere while a form is half filled in. One-letter keys can be switched off in
        Settings.
      </Body>
      <TextButton onPress={onClose}>Close</TextButton>
    </View>
  );
  return createElement("dialog", { ref: dialog, onClose, "aria-label": "Keys", className: "key-list" }, list);
}
