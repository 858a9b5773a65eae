import { View } from "@tamagui/core";
import {
  conductivityAt25,
  explainRated,
  isWithin,
  membrane,
  outOfRangeSentence,
  RANGES,
  type MembraneInput,
  type Range,
  type Rig,
} from "@winter-bead/core";
import { useState } from "react";
import { ofQuantities, useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import { shown, threeDigits, toInternal, toShown, typedNumber, unitOf, type Units } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { useTapWaters } from "./useTapWaters";

type Quantity = Parameters<typeof toInternal>[0];

interface Field {
  readonly name: string;
  readonly label: string;
  readonly unit?: string;
  readonly quantity?: Quantity;
  readonly range: Range;
  /** Internal units. */
  readonly start: number;
}

const percent: Range = { name: "The percentage", unit: "%", above: 0, below: 100 };

/** The maker's own test, and today's work. */
const RATED: readonly Field[] = [
  { name: "flow", label: "Rated flow", quantity: "flow", range: RANGES.flow, start: 0.13 },
  { name: "rejection", label: "Rated rejection", unit: "%", range: percent, start: 97 },
  { name: "ratedPressure", label: "at a pressure of", quantity: "pressure", range: RANGES.pressure, start: 345 },
  { name: "ratedEc", label: "in water of", unit: "µS/cm", range: RANGES.value, start: 1000 },
  { name: "ratedRecovery", label: "at a recovery of", unit: "%", range: { ...percent, to: 95 }, start: 15 },
];
const TODAY: readonly Field[] = [
  { name: "pressure", label: "Pressure", quantity: "pressure", range: RANGES.pressure, start: 400 },
  { name: "temperature", label: "Temperature", quantity: "temperature", range: RANGES.temperature, start: 15 },
  { name: "recovery", label: "Recovery", unit: "%", range: { ...percent, to: 95 }, start: 25 },
  { name: "ec", label: "Feed", unit: "µS/cm", range: RANGES.value, start: 420 },
];

const text = (field: Field, value: number, units: Units) =>
  String(Number((field.quantity ? toShown(field.quantity, value, units) : value).toPrecision(4)));

/** The core's question from the fields' values; percentages become shares. */
const questionOf = (value: (name: string) => number, co2: number): MembraneInput => ({
  feed: { ec25: value("ec"), temperature: value("temperature"), pressure: value("pressure"), co2 },
  recovery: value("recovery") / 100,
  rated: {
    flow: value("flow"),
    rejection: value("rejection") / 100,
    pressure: value("ratedPressure"),
    ec25: value("ratedEc"),
    recovery: value("ratedRecovery") / 100,
  },
});

const inOtherUnits = ofQuantities<Record<string, string>>(
  Object.fromEntries([...RATED, ...TODAY].flatMap(({ name, quantity }) => (quantity ? [[name, quantity]] : []))),
);

/** What the membrane should make by its maker's test, in this water, at this pressure and temperature. */
export function RatedMembrane({ rig }: { readonly rig: Rig }) {
  const { units } = useSettings();
  const { records: taps } = useRecords("taps");
  const { all: waters } = useTapWaters();
  const [open, setOpen] = useState(false);
  const tap = taps.find((each) => each.id === rig.tapId);
  const water = waters.find((each) => each.tap.id === rig.tapId);
  const stated = tap ? conductivityAt25({ value: tap.typical, scale: tap.scale }) : undefined;
  const ec = stated?.ok ? stated.value : 420;
  const co2 = water?.described?.water.co2 ?? 0;
  const fields = [...RATED, ...TODAY];
  const initial = Object.fromEntries(
    fields.map((field) => [field.name, text(field, field.name === "ec" ? ec : field.start, units)]),
  );
  const [typed, patch] = useUnitDraft<Record<string, string>>(`rated:${rig.id}`, initial, inOtherUnits);
  const value = (name: string): number | undefined => {
    const field = fields.find((each) => each.name === name)!;
    const number = typedNumber(typed[name] ?? "");
    const internal =
      number === undefined ? undefined : field.quantity ? toInternal(field.quantity, number, units) : number;
    return internal !== undefined && isWithin(internal, field.range) ? internal : undefined;
  };
  const errorOf = ({ name, range }: Field) => (value(name) === undefined ? outOfRangeSentence(range) : undefined);
  const complete = fields.every(({ name }) => value(name) !== undefined);
  const asked = complete ? questionOf((name) => value(name)!, co2) : undefined;
  const answer = asked && membrane(asked);
  const explained = asked && explainRated(asked);
  const inputs = (some: readonly Field[]) => (
    <FieldRow>
      {some.map((field) => {
        const error = errorOf(field);
        return (
          <NumberField
            key={field.name}
            label={field.label}
            unit={field.quantity ? unitOf(field.quantity, units) : (field.unit ?? "")}
            value={typed[field.name] ?? ""}
            onChange={(words) => patch({ [field.name]: words })}
            testID={`rated-${field.name}`}
            {...(error ? { error } : {})}
          />
        );
      })}
    </FieldRow>
  );
  return (
    <View gap="$3">
      <Heading>What it should make</Heading>
      {answer?.ok ? (
        <View gap="$1" testID="rated-answer">
          <Explained explanation={explained?.ok ? explained.value.flow : undefined}>
            <Body>
              <Strong textDecorationLine="underline" textDecorationStyle="dotted">
                {`${shown("flow", answer.value.flow, units).text} ${unitOf("flow", units)}`}
              </Strong>
              {` and ${threeDigits(answer.value.wasteRatio)} times as much to waste`}
            </Body>
          </Explained>
          <Explained explanation={explained?.ok ? explained.value.product : undefined}>
            <Body>
              {"at "}
              <Strong textDecorationLine="underline" textDecorationStyle="dotted">
                {threeDigits(answer.value.ec25)}
              </Strong>
              {` µS/cm, a rejection of ${threeDigits(100 * answer.value.rejection)} %.`}
            </Body>
          </Explained>
          {co2 > 0.5 ? (
            <Body>{`The feed’s ${threeDigits(co2)} mg/L of carbon dioxide passes: it goes on to the resin unseen.`}</Body>
          ) : null}
        </View>
      ) : (
        <Body role="alert">{answer && !answer.ok ? answer.fault.message : "A figure below is missing."}</Body>
      )}
      <TextButton onPress={() => setOpen(!open)} expanded={open}>
        {open ? "Less" : "By its maker’s test: change the figures"}
      </TextButton>
      {open ? (
        <View gap="$3">
          {inputs(RATED)}
          {inputs(TODAY)}
          <Small>
            Flow follows the net driving pressure and the temperature; salt passage is that of solution and diffusion.
            The rated figures are an example until you enter your own.
          </Small>
        </View>
      ) : null}
    </View>
  );
}
