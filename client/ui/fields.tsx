import { Input } from "@tamagui/input";
import { View } from "@tamagui/core";
import { useId, type ReactNode } from "react";
import { Meaning } from "./Meaning";
import { Small } from "./words";

interface FieldProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (text: string) => void;
  /** Stands with the label, beside the number. */
  readonly unit?: string | undefined;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  readonly testID?: string | undefined;
}

/** A label, what is to be known of it, and the box that something stands in. */
export function FieldFrame({
  id,
  label,
  unit,
  hint,
  error,
  wide,
  children,
}: {
  readonly id: string;
  readonly label: string;
  readonly unit?: string | undefined;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  /** Takes a row of its own where there is little room. */
  readonly wide: boolean;
  readonly children: ReactNode;
}) {
  const note = error ?? hint;
  return (
    <View
      gap="$1"
      flexGrow={1}
      flexShrink={1}
      minWidth={wide ? 150 : 96}
      width={wide ? undefined : 96}
      alignSelf={wide ? "stretch" : undefined}
    >
      <View flexGrow={1} justifyContent="flex-end">
        <View flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$2">
          <Small render="label" color="$ink" flexShrink={1} minWidth={0} {...{ htmlFor: id }}>
            {unit ? `${label}, ${unit}` : label}
          </Small>
          <Meaning of={label} />
        </View>
        {note ? (
          <Small id={`${id}-note`} color={error ? "$rowan" : "$soft"}>
            {note}
          </Small>
        ) : null}
      </View>
      <View
        flexDirection="row"
        alignItems="center"
        backgroundColor="$card"
        borderColor={error ? "$rowan" : "$line"}
        borderWidth={2}
        borderRadius="$2"
        paddingHorizontal="$3"
        minHeight={50}
        focusWithinStyle={{ borderColor: "$ink" }}
      >
        {children}
      </View>
    </View>
  );
}

function Field({
  label,
  value,
  onChange,
  unit,
  hint,
  error,
  testID,
  numeric,
}: FieldProps & { readonly numeric: boolean }) {
  const id = useId();
  return (
    <FieldFrame id={id} label={label} unit={unit} hint={hint} error={error} wide={!numeric}>
      <Input
        id={id}
        testID={testID}
        value={value}
        onChangeText={onChange}
        inputMode={numeric ? "decimal" : "text"}
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={(error ?? hint) ? `${id}-note` : undefined}
        flex={1}
        minWidth={0}
        borderWidth={0}
        backgroundColor="transparent"
        color="$ink"
        fontSize={numeric ? "$4" : "$3"}
        fontWeight={numeric ? "700" : "400"}
        padding={0}
        minHeight={46}
        height="auto"
        outlineWidth={0}
        focusVisibleStyle={{ outlineWidth: 0, outlineStyle: "none" }}
      />
    </FieldFrame>
  );
}

export const TextField = (props: FieldProps) => <Field {...props} numeric={false} />;
export const NumberField = (props: FieldProps) => <Field {...props} numeric />;

/** Fields that share a row while there is room; their boxes stand at one height, however long the words above. */
export const FieldRow = ({ children }: { readonly children: React.ReactNode }) => (
  <View flexDirection="row" flexWrap="wrap" gap="$3" alignItems="stretch">
    {children}
  </View>
);
