import { styled, View } from "@tamagui/core";
import { memo, type FunctionComponent, type KeyboardEvent, type ReactNode } from "react";
import { Meaning } from "./Meaning";
import { useSteady } from "./newest";
import { Pressable } from "./pressable";
import { Body, Small, Strong } from "./words";

export { Pressable, type PressableProps } from "./pressable";

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

interface PressProps {
  readonly onPress?: (() => void) | undefined;
  /** Where it leads, in place of something to do. */
  readonly href?: string;
  readonly label?: string;
  readonly disabled?: boolean;
  readonly testID?: string;
}

const pressed = ({ label, ...press }: PressProps) => ({ className: "action", "aria-label": label, ...press });

/** A button that is drawn again for its words alone: what it does may change with every digit. */
function steadily<P extends { readonly onPress?: (() => void) | undefined }>(draw: FunctionComponent<P>) {
  const Drawn = memo(draw) as unknown as FunctionComponent<P>;
  const Steady = ({ onPress, ...rest }: P) => {
    const press = useSteady(() => onPress?.());
    return <Drawn {...(rest as unknown as P)} onPress={onPress && press} />;
  };
  Steady.displayName = draw.name;
  return Steady;
}

/** The one heavy button of a screen: it says what happens. */
export const HeavyButton = steadily(function HeavyButton({
  children,
  ...press
}: PressProps & { readonly children: string }) {
  return (
    <Pressable
      {...pressed(press)}
      aria-disabled={press.disabled}
      backgroundColor={press.disabled ? "$frost" : "$ink"}
      borderRadius="$3"
      minHeight={56}
      paddingHorizontal="$5"
      width="100%"
    >
      <Body color="$onInk" fontSize="$3" fontWeight="700">
        {children}
      </Body>
    </Pressable>
  );
});

/** A lighter way on. */
export const PlainButton = steadily(function PlainButton({
  children,
  ...press
}: PressProps & { readonly children: ReactNode }) {
  return (
    <Pressable
      {...pressed(press)}
      backgroundColor="$card"
      borderColor="$ink"
      borderWidth={2}
      borderRadius="$3"
      paddingHorizontal="$4"
      maxWidth="100%"
    >
      <Strong>{children}</Strong>
    </Pressable>
  );
});

/**
 * Words that can be tapped, in three looks for three meanings: a chevron goes somewhere, a dotted line opens something where
 * it stands, a pale plate does something.
 */
export const TextButton = steadily(function TextButton({
  children,
  onPress,
  href,
  label,
  testID,
  expanded,
}: PressProps & { readonly children: ReactNode; readonly expanded?: boolean }) {
  if (expanded !== undefined && href === undefined)
    return (
      <Opener onPress={onPress} label={label} testID={testID} expanded={expanded}>
        {children}
      </Opener>
    );
  return (
    <Pressable
      className="action"
      onPress={onPress}
      href={href}
      aria-label={label}
      testID={testID}
      alignItems="flex-start"
      flexShrink={1}
    >
      {href === undefined ? (
        <View backgroundColor="$ice" borderRadius="$1" paddingHorizontal={10} paddingVertical={6}>
          <Strong fontWeight="600">{children}</Strong>
        </View>
      ) : (
        <Going>{children}</Going>
      )}
    </Pressable>
  );
});

/** Words that lead away from here. */
export const Going = ({ children, rowan = false }: { readonly children: ReactNode; readonly rowan?: boolean }) => (
  <View flexDirection="row" alignItems="baseline" columnGap={5}>
    <Strong fontWeight="600" flexShrink={1} color={rowan ? "$rowan" : "$ink"}>
      {children}
    </Strong>
    <View
      aria-hidden
      width={7}
      height={7}
      borderTopWidth={2}
      borderRightWidth={2}
      borderColor={rowan ? "$rowan" : "$ink"}
      transform={[{ rotate: "45deg" }]}
    />
  </View>
);

/** Words that open a working or an explanation where they stand: a dotted line, as in no way anywhere. */
export function Opener({
  children,
  onPress,
  label,
  testID,
  expanded = false,
}: {
  readonly onPress?: (() => void) | undefined;
  readonly label?: string | undefined;
  readonly testID?: string | undefined;
} & { readonly children: ReactNode; readonly expanded?: boolean }) {
  return (
    <Pressable
      className="action"
      onPress={onPress}
      aria-label={label}
      aria-expanded={expanded}
      testID={testID}
      alignItems="flex-start"
      flexShrink={1}
    >
      <Strong
        fontWeight="600"
        textDecorationLine="underline"
        textDecorationStyle="dotted"
        {...({ style: { textUnderlineOffset: 4, textDecorationThickness: 2 } } as object)}
      >
        {children}
      </Strong>
    </Pressable>
  );
}

export interface Option<T extends string> {
  readonly value: T;
  readonly label: string;
}

/** Where an arrow leads in a group of choices, round at its ends; undefined for another key. */
function arrowTo(key: string, from: number, count: number): number | undefined {
  if (key === "ArrowRight" || key === "ArrowDown") return (from + 1) % count;
  if (key === "ArrowLeft" || key === "ArrowUp") return (from + count - 1) % count;
  return undefined;
}

const neighbour = (choice: HTMLElement, index: number) =>
  choice.closest('[role="radiogroup"]')?.querySelectorAll<HTMLElement>('[role="radio"]')[index];

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly hint?: string | undefined;
  readonly error?: string | undefined;
  readonly testID?: string | undefined;
  readonly value: T | undefined;
  readonly options: readonly Option<T>[];
  readonly onChange: (value: T) => void;
  readonly hideLabel?: boolean;
}

const isSameOption = (a: Option<string>, b: Option<string> | undefined) => a.value === b?.value && a.label === b.label;

const isSameChoice = (
  { options: a, ...before }: ChoiceProps<string>,
  { options: b, ...after }: ChoiceProps<string>,
): boolean =>
  a.length === b.length &&
  a.every((option, i) => isSameOption(option, b[i])) &&
  Object.keys({ ...before, ...after }).every(
    (name) => before[name as keyof typeof before] === after[name as keyof typeof after],
  );

/** Drawn again only when what is offered or chosen changes. */
const ChoiceFrame = memo(function ChoiceFrame({
  label,
  value,
  options,
  onChange,
  hideLabel,
  hint,
  error,
  testID,
}: ChoiceProps<string>) {
  const entered = options.some((option) => option.value === value) ? value : options[0]?.value;
  return (
    <View role="radiogroup" aria-label={label} gap="$1" testID={testID} {...(error ? { "aria-invalid": true } : {})}>
      {hideLabel ? null : (
        <View flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$2">
          <Small flexShrink={1} minWidth={0}>
            {label}
          </Small>
          <Meaning of={label} />
        </View>
      )}
      {(error ?? hint) ? <Small color={error ? "$rowan" : "$soft"}>{error ?? hint}</Small> : null}
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {options.map((option, i) => {
          const chosen = option.value === value;
          return (
            <Pressable
              key={option.value}
              role="radio"
              aria-checked={chosen}
              aria-label={option.label}
              tabIndex={option.value === entered ? 0 : -1}
              onPress={() => onChange(option.value)}
              {...({
                onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
                  const to = arrowTo(event.key, i, options.length);
                  if (to === undefined) return;
                  event.preventDefault();
                  onChange(options[to]!.value);
                  neighbour(event.currentTarget, to)?.focus();
                },
              } as object)}
              backgroundColor={chosen ? "$ink" : "$card"}
              borderColor={chosen ? "$ink" : "$line"}
              borderWidth={2}
              borderRadius="$2"
              paddingHorizontal="$3"
              maxWidth="100%"
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
}, isSameChoice);

/** One of a few, all in sight: one stop of the tab key, the arrows choose. */
export const Choice = <T extends string>(props: ChoiceProps<T>) => (
  <ChoiceFrame {...props} onChange={useSteady(props.onChange as (value: string) => void)} />
);

/** One of several that may stand together: on or off, each by itself. */
export function Tick({
  children,
  label,
  on,
  onPress,
  testID,
}: {
  readonly children: string;
  /** Read out, where it says more than its words. */
  readonly label?: string;
  readonly on: boolean;
  readonly onPress: () => void;
  readonly testID?: string;
}) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={on}
      aria-label={label ?? children}
      onPress={onPress}
      backgroundColor={on ? "$ink" : "$card"}
      borderColor={on ? "$ink" : "$line"}
      borderWidth={2}
      borderRadius="$2"
      paddingHorizontal="$3"
      testID={testID}
    >
      <Body color={on ? "$onInk" : "$ink"} fontWeight={on ? "700" : "400"}>
        {children}
      </Body>
    </Pressable>
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
