import { CACO3_PER_DKH } from "@winter-bead/core/src/units/constants";
import { View } from "@tamagui/core";
import { useState } from "react";
import { TextButton } from "./boxes";
import { NumberField } from "./fields";
import { typedNumber } from "./format";

interface KhFieldProps {
  /** mg/L as CaCO3, as typed. */
  readonly value: string;
  readonly onChange: (text: string) => void;
  readonly error?: string | undefined;
  readonly testID?: string | undefined;
}

/** As many digits as a kit shows, and the same back. */
const digits = (value: number) => String(Number(value.toPrecision(4)));

/** @example inDegrees("107") // "5.995" */
export function inDegrees(text: string): string {
  const number = typedNumber(text);
  return number === undefined ? text : digits(number / CACO3_PER_DKH);
}

/** @example fromDegrees("6") // "107.1" */
export function fromDegrees(text: string): string {
  const number = typedNumber(text);
  return number === undefined ? text : digits(number * CACO3_PER_DKH);
}

/** KH, or alkalinity, in the unit of whatever kit or report is in hand: mg/L as CaCO3, which is ppm KH, or degrees. */
export function KhField({ value, onChange, error, testID = "field-alkalinity" }: KhFieldProps) {
  // What was typed in degrees stays as it was typed.
  const [degrees, setDegrees] = useState<string>();
  const isDegrees = degrees !== undefined;
  return (
    <View flexGrow={1} gap="$1">
      <NumberField
        label="KH (alkalinity)"
        unit={isDegrees ? "dKH" : "ppm CaCO3"}
        value={isDegrees ? degrees : value}
        onChange={(text) => {
          if (isDegrees) setDegrees(text);
          onChange(isDegrees ? fromDegrees(text) : text);
        }}
        error={error}
        hint={isDegrees && value !== "" ? `${value} ppm CaCO3` : undefined}
        testID={testID}
      />
      <TextButton onPress={() => setDegrees(isDegrees ? undefined : inDegrees(value))} testID={`${testID}-unit`}>
        {isDegrees ? "In ppm CaCO3 (mg/L)" : "In dKH, as aquarium kits count"}
      </TextButton>
    </View>
  );
}
