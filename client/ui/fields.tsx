import { Input } from "@tamagui/input";
import { View } from "@tamagui/core";
import { memo, useContext, useEffect, useId, useRef, useState, type ReactNode } from "react";
import { OwnPad } from "./own-pad";
import { Meaning } from "./Meaning";
import { useSteady } from "./newest";
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

/** ms of rest after which a figure that can't be is told so. */
const TOLD_AFTER = 800;

/** A fault is told once the hand rests or leaves: not of the first digit of three, and no box moves under the finger. */
function useTold(error: string | undefined) {
  const [typing, setTyping] = useState(false);
  const [told, setTold] = useState(error);
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(resting.current), []);
  if (!typing && told !== error) setTold(error);
  const rest = () => {
    clearTimeout(resting.current);
    setTyping(false);
  };
  const type = () => {
    clearTimeout(resting.current);
    setTyping(true);
    resting.current = setTimeout(rest, TOLD_AFTER);
  };
  return { told: typing ? told : error, type, rest };
}

/** Drawn again only when something of its own changes, so that a key costs one field and not a form. */
const Field = memo(function Field({
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
  const ownPad = useContext(OwnPad);
  const { told, type, rest } = useTold(error);
  return (
    <FieldFrame id={id} label={label} unit={unit} hint={hint} error={told} wide={!numeric}>
      <Input
        id={id}
        testID={testID}
        value={value}
        onChangeText={(text) => {
          type();
          onChange(text);
        }}
        onBlur={rest}
        inputMode={numeric ? (ownPad ? "none" : "decimal") : "text"}
        autoComplete="off"
        aria-invalid={error !== undefined}
        aria-describedby={(told ?? hint) ? `${id}-note` : undefined}
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
});

export const TextField = (props: FieldProps) => (
  <Field {...props} onChange={useSteady(props.onChange)} numeric={false} />
);
export const NumberField = (props: FieldProps) => <Field {...props} onChange={useSteady(props.onChange)} numeric />;

/** Fields that share a row while there is room; their boxes stand at one height, however long the words above. */
export const FieldRow = ({ children }: { readonly children: React.ReactNode }) => (
  <View flexDirection="row" flexWrap="wrap" gap="$3" alignItems="stretch">
    {children}
  </View>
);
