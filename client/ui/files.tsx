import { View } from "@tamagui/core";
import { useId, useRef } from "react";
import { PlainButton } from "./boxes";

/** Hands a file to the person at the browser. */
export function download(name: string, content: string | Blob, type = "text/plain"): void {
  const blob = typeof content === "string" ? new Blob([content], { type: `${type};charset=utf-8` }) : content;
  const address = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

interface FilePickerProps {
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: File) => void;
  readonly testID: string;
}

/** Opens a file from this device; nothing is sent anywhere by choosing it. */
export function FilePicker({ label, accept, onFile, testID }: FilePickerProps) {
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  return (
    <View>
      <input
        ref={input}
        id={id}
        type="file"
        accept={accept}
        data-testid={testID}
        aria-label={label}
        style={{ display: "none" }}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
      <PlainButton onPress={() => input.current?.click()}>{label}</PlainButton>
    </View>
  );
}
