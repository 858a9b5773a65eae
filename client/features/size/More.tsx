import { View } from "@tamagui/core";
import { useState, type ReactNode } from "react";
import { TextButton } from "../../ui/boxes";

/** Words that open what not everybody needs. */
export function More({
  label,
  children,
  testID,
}: {
  readonly label: string;
  readonly children: ReactNode;
  readonly testID?: string;
}) {
  const [open, setOpen] = useState(false);
  return (
    <View gap="$3">
      <TextButton onPress={() => setOpen(!open)} expanded={open} {...(testID ? { testID } : {})}>
        {open ? `Close: ${label.toLowerCase()}` : label}
      </TextButton>
      {open ? children : null}
    </View>
  );
}
