import { View } from "@tamagui/core";
import type { Explanation, ExplanationInput, MedianOf } from "@winter-bead/core";
import { useState, type ReactNode } from "react";
import { useSettings } from "../data/settings";
import { Pressable, TextButton } from "./boxes";
import { explainedIn } from "./explain-units";
import { sixDigits, threeDigits } from "./format";
import { Body, Small, Strong } from "./words";

function InputLine({ input }: { readonly input: ExplanationInput }) {
  const [open, setOpen] = useState(false);
  const { because } = input;
  const line = (
    <View
      testID="explain-input"
      flexDirection="row"
      flexWrap="wrap"
      columnGap="$2"
      alignItems="baseline"
      minHeight={26}
    >
      <Strong testID="explain-symbol" minWidth={34}>
        {input.symbol}
      </Strong>
      <Strong testID="explain-value" textDecorationLine={because ? "underline" : "none"} textDecorationStyle="dotted">
        {sixDigits(input.value)}
      </Strong>
      {input.unit === "" ? null : <Body>{input.unit}</Body>}
      <Body flexShrink={1}>{input.name}</Body>
      <Small>
        {input.from}
        {input.assumption ? " (assumption)" : ""}
      </Small>
    </View>
  );
  if (!because) return line;
  return (
    <View>
      <Pressable
        onPress={() => setOpen(!open)}
        aria-expanded={open}
        aria-label={`Where ${input.name} comes from`}
        alignItems="stretch"
      >
        {line}
      </Pressable>
      {open ? (
        <View paddingLeft="$4">
          <Working explanation={because} />
        </View>
      ) : null}
    </View>
  );
}

/** How a belief moved to its middle, and what the middle of each input alone would give. */
function MedianWords({ median, unit }: { readonly median: MedianOf; readonly unit: string }) {
  return (
    <View gap={2} testID="explain-median">
      {median.steps.map((step) => (
        <Body key={step.words}>
          {step.words}: <Strong>{threeDigits(step.value)}</Strong> {step.unit}
        </Body>
      ))}
      <Small>
        The middle of each figure alone gives <Small testID="explain-middle">{threeDigits(median.middleOfEach)}</Small>
        {` ${unit}; together they give the middle above.`}
      </Small>
    </View>
  );
}

/** Formula, inputs, assumptions and school of one number. */
export function Working({ explanation }: { readonly explanation: Explanation }) {
  const unit = explanation.unit === "" ? "" : ` ${explanation.unit}`;
  return (
    <View testID="working" gap="$2" borderLeftColor="$line" borderLeftWidth={3} paddingLeft="$3" paddingVertical="$2">
      <Body>{explanation.words}</Body>
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {explanation.median ? <Body>the middle of</Body> : null}
        <Strong testID="explain-formula">{explanation.formula}</Strong>
        <Strong>=</Strong>
        <Strong testID="explain-result">{threeDigits(explanation.value)}</Strong>
        <Strong>{unit}</Strong>
      </View>
      {explanation.inputs.map((input) => (
        <InputLine key={input.symbol} input={input} />
      ))}
      {explanation.median ? <MedianWords median={explanation.median} unit={explanation.unit} /> : null}
      <Small>
        School: {explanation.school}. Source: {explanation.source}.
      </Small>
    </View>
  );
}

interface ExplainedProps {
  readonly explanation: Explanation | undefined;
  readonly testID?: string;
  /** What is tapped; a line of words when absent. */
  readonly children?: ReactNode;
  readonly label?: string;
}

/** A number that can be opened: tap it, and its working stands below. */
export function Explained({ explanation: internal, label = "Why this number", testID, children }: ExplainedProps) {
  const { units } = useSettings();
  const [open, setOpen] = useState(false);
  if (!internal) return <>{children}</>;
  const explanation = explainedIn(units, internal);
  const toggle = () => setOpen(!open);
  return (
    <View testID={testID} gap="$1">
      {children ? (
        <Pressable
          onPress={toggle}
          aria-expanded={open}
          aria-label={`${explanation.name}, ${threeDigits(explanation.value)} ${explanation.unit}: why`}
          alignItems="stretch"
          style={{ textAlign: "left" }}
        >
          {children}
        </Pressable>
      ) : (
        <TextButton onPress={toggle} expanded={open}>
          {open ? "Close the working" : label}
        </TextButton>
      )}
      {open ? <Working explanation={explanation} /> : null}
    </View>
  );
}
