import { styled, View } from "@tamagui/core";
import type { ReactNode } from "react";
import { Body, Small, Strong } from "./words";

export const Card = styled(View, {
  name: "Card",
  backgroundColor: "$card",
  borderColor: "$line",
  borderWidth: 2,
  borderRadius: "$3",
  padding: "$4",
  gap: "$2",
});
export const Row = styled(View, { name: "Row", flexDirection: "row", alignItems: "center", gap: "$3" });
export const Column = styled(View, { name: "Column", gap: "$4" });

const Pressable = styled(View, {
  name: "Pressable",
  render: "button",
  role: "button",
  cursor: "pointer",
  backgroundColor: "transparent",
  borderWidth: 0,
  padding: 0,
  minHeight: 48,
  minWidth: 48,
  justifyContent: "center",
  alignItems: "center",
  hoverStyle: { opacity: 0.92 },
  pressStyle: { opacity: 0.75 },
});

interface PressProps {
  readonly onPress: () => void;
  readonly label?: string;
  readonly disabled?: boolean;
  readonly testID?: string;
}

/** The one heavy button of a screen: it says what happens. */
export function HeavyButton({
  children,
  onPress,
  label,
  disabled,
  testID,
}: PressProps & { readonly children: string }) {
  return (
    <Pressable
      onPress={onPress}
      aria-label={label}
      aria-disabled={disabled}
      disabled={disabled}
      testID={testID}
      backgroundColor={disabled ? "$frost" : "$ink"}
      borderRadius="$3"
      minHeight={58}
      paddingHorizontal="$5"
      width="100%"
    >
      <Body color="$onInk" fontSize="$3" fontWeight="700">
        {children}
      </Body>
    </Pressable>
  );
}

/** A lighter way on. */
export function PlainButton({
  children,
  onPress,
  label,
  disabled,
  testID,
}: PressProps & { readonly children: ReactNode }) {
  return (
    <Pressable
      onPress={onPress}
      aria-label={label}
      disabled={disabled}
      testID={testID}
      backgroundColor="$card"
      borderColor="$ink"
      borderWidth={2}
      borderRadius="$3"
      paddingHorizontal="$4"
    >
      <Strong>{children}</Strong>
    </Pressable>
  );
}

/** Words that can be tapped. */
export function TextButton({
  children,
  onPress,
  label,
  testID,
  expanded,
}: PressProps & { readonly children: ReactNode; readonly expanded?: boolean }) {
  return (
    <Pressable onPress={onPress} aria-label={label} aria-expanded={expanded} testID={testID} alignItems="flex-start">
      <Strong textDecorationLine="underline" fontWeight="600">
        {children}
      </Strong>
    </Pressable>
  );
}

export { Pressable };

export interface Option<T extends string> {
  readonly value: T;
  readonly label: string;
}

/** One of a few, all in sight. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel,
}: {
  readonly label: string;
  readonly value: T | undefined;
  readonly options: readonly Option<T>[];
  readonly onChange: (value: T) => void;
  readonly hideLabel?: boolean;
}) {
  return (
    <View role="radiogroup" aria-label={label} gap="$1">
      {hideLabel ? null : <Small>{label}</Small>}
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {options.map((option) => {
          const chosen = option.value === value;
          return (
            <Pressable
              key={option.value}
              role="radio"
              aria-checked={chosen}
              aria-label={option.label}
              onPress={() => onChange(option.value)}
              backgroundColor={chosen ? "$ink" : "$card"}
              borderColor={chosen ? "$ink" : "$line"}
              borderWidth={2}
              borderRadius="$2"
              paddingHorizontal="$3"
            >
              <Body color={chosen ? "$onInk" : "$ink"} fontWeight={chosen ? "700" : "400"}>
                {option.label}
              </Body>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
}

/** An empty place that says what to do first. */
export function EmptyState({
  title,
  children,
  action,
}: {
  readonly title: string;
  readonly children: string;
  readonly action?: ReactNode;
}) {
  return (
    <Card gap="$3" backgroundColor="transparent" borderStyle="dashed">
      <Strong fontSize="$3">{title}</Strong>
      <Body color="$soft">{children}</Body>
      {action}
    </Card>
  );
}

/** A caution at the step where the hand could be hurt. */
export function Caution({ children }: { readonly children: string }) {
  return (
    <View role="note" borderLeftColor="$rowan" borderLeftWidth={4} paddingLeft="$3" paddingVertical="$1">
      <Body>
        <Strong>Mind: </Strong>
        {children}
      </Body>
    </View>
  );
}
