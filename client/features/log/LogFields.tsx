import { View } from "@tamagui/core";
import { memo } from "react";
import { inUse } from "../../data/in-use";
import { Choice, Pressable } from "../../ui/boxes";
import { FieldRow, NumberField, TextField } from "../../ui/fields";
import { scaleUnit, shown, unitOf } from "../../ui/format";
import { Body, Small } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import type { RigView } from "../rack/useRigs";
import { textIn, type DraftField } from "./draft-visit";
import { offerFor, waterUnitOf, type Log, type Offer } from "./useLog";

interface FieldBoxProps {
  /** Digits that fit in the large size. */
  readonly most: number;
  readonly label: string;
  readonly text: string;
  readonly unit: string;
  readonly last: string;
  readonly focused: boolean;
  readonly error: string | undefined;
  readonly field: DraftField;
  readonly onFocus: (field: DraftField) => void;
}

/** One figure; drawn again only when something in it changes. */
const FieldBox = memo(function FieldBox({
  most,
  label,
  text,
  unit,
  last,
  focused,
  error,
  field,
  onFocus,
}: FieldBoxProps) {
  return (
    <Pressable
      onPress={() => onFocus(field)}
      testID={`log-${field.split(":")[0]!}`}
      aria-pressed={focused}
      aria-label={`${label}: ${text === "" ? "empty" : text} ${unit}. ${last}`}
      flex={1}
      minWidth={0}
      alignItems="flex-start"
      justifyContent="flex-start"
      backgroundColor="$card"
      borderColor={error ? "$rowan" : focused ? "$ink" : "$line"}
      borderWidth={2}
      borderRadius="$3"
      paddingHorizontal={10}
      paddingVertical={8}
      gap={0}
      minHeight={92}
    >
      <Small textAlign="left" fontWeight={focused ? "800" : "400"} color={focused ? "$ink" : "$soft"}>
        {label}
      </Small>
      <View flexDirection="row" alignItems="center">
        <Body fontSize={text.length > most ? "$3" : "$5"} lineHeight="$5" fontWeight="800">
          {text === "" && !focused ? "–" : text}
        </Body>
        {focused ? <View width={2} height={28} backgroundColor="$ink" marginLeft={2} /> : null}
      </View>
      <Small textAlign="left">{unit}</Small>
    </Pressable>
  );
});

/** A point that has no box: asked for it gets one; what was typed there counts and is shown. */
const OtherPoint = memo(function OtherPoint({
  field,
  label,
  text,
  onAsk,
}: {
  readonly field: DraftField;
  readonly label: string;
  readonly text: string;
  readonly onAsk: (field: DraftField) => void;
}) {
  return (
    <Pressable
      onPress={() => onAsk(field)}
      testID={`point-${field.split(":")[0]!}`}
      aria-label={`Type ${label}${text === "" ? "" : `, now ${text}`}`}
      minHeight={34}
      paddingHorizontal={10}
      backgroundColor="$ice"
      borderRadius="$1"
    >
      <Small color="$ink" fontWeight="600">
        {text === "" ? `+ ${label}` : `${label} ${text}`}
      </Small>
    </Pressable>
  );
});

/** Points of this train that have no box, each one tap away. */
export const OtherPoints = memo(function OtherPoints({ log }: { readonly log: Log }) {
  const { draft, boxes, ask } = log;
  if (boxes.waiting.length === 0) return null;
  return (
    <View flexDirection="row" gap="$2" role="group" aria-label="Other points of this train">
      {boxes.waiting.map(({ field, label }) => (
        <OtherPoint key={field} field={field} label={label} text={textIn(draft, field)} onAsk={ask} />
      ))}
    </View>
  );
});

const WATER_LABEL = { total: "Total", timed: "Minutes run", jobs: "Jobs" } as const;

/** Words about the last value that fit into a field's box. */
const shortWords = (offer: Offer | undefined) => offer?.words.split(", ")[0] ?? "";

/** What is read: a box for each point of this train, and one for the water. */
export const LogFields = memo(function LogFields({
  facts,
  log,
  unit,
}: {
  readonly facts: RigFacts;
  readonly log: Log;
  readonly unit: string;
}) {
  const { draft, focus, setFocus, visit, units, boxes, asksFilling } = log;
  const { shown } = boxes;
  const box = (field: DraftField, label: string, fieldUnit: string) => (
    <FieldBox
      key={field}
      most={shown.length + (asksFilling ? 1 : 0) > 2 ? 4 : 6}
      field={field}
      label={label}
      text={textIn(draft, field)}
      unit={fieldUnit}
      last={shortWords(offerFor(field, facts, log))}
      focused={focus === field}
      error={visit.errors[field]}
      onFocus={setFocus}
    />
  );
  return (
    <View flexDirection="row" gap="$2">
      {shown.map(({ field, label }) => box(field, label, unit))}
      {box("water", WATER_LABEL[draft.waterBy], waterUnitOf(draft, facts, units))}
      {asksFilling ? box("atFilling", "At filling", unitOf("volume", units)) : null}
    </View>
  );
});

export const WATER_WAYS = [
  { value: "total", label: "Meter total" },
  { value: "timed", label: "Minutes" },
  { value: "jobs", label: "Jobs" },
] as const;

/** By which meter the figures are read. */
export const MeterChoice = ({ log, label }: { readonly log: Log; readonly label: string }) => (
  <Choice
    label={label}
    value={log.draft.meterId}
    options={log.meters.map(({ id, name, scale }) => ({ value: id, label: `${name}, ${scaleUnit(scale)}` }))}
    onChange={(meterId) => log.patch({ meterId })}
    testID="log-meter"
  />
);

/** What is asked seldom: meter, tap, temperature, a note. */
export function MoreFields({ view, log }: { readonly view: RigView; readonly log: Log }) {
  const { draft, patch } = log;
  const { facts } = view;
  const taps = inUse(facts.taps, draft.tapId);
  return (
    <View gap="$3">
      {log.meters.length > 0 && draft.meterId !== "" ? <MeterChoice log={log} label="Meter" /> : null}
      {taps.length > 1 ? (
        <Choice
          label="Tap"
          value={draft.tapId}
          options={taps.map((tap) => ({ value: tap.id, label: tap.name }))}
          onChange={(tapId) => patch({ tapId })}
        />
      ) : null}
      <FieldRow>
        {draft.waterBy === "timed" ? (
          <NumberField
            label="Flow while it ran"
            unit={unitOf("flow", log.units)}
            value={draft.flow}
            onChange={(flow) => patch({ flow })}
            hint={`Usually ${shown("flow", facts.rig.flow, log.units).text}`}
            testID="log-flow"
          />
        ) : null}
        {draft.waterBy === "jobs" ? (
          <NumberField
            label={`Water per ${facts.rig.jobName}`}
            unit={unitOf("volume", log.units)}
            value={draft.perJob}
            onChange={(perJob) => patch({ perJob })}
            hint={`Usually ${shown("volume", facts.rig.litresPerJob, log.units).text}`}
            testID="log-per-job"
          />
        ) : null}
        <NumberField
          label="Water temperature"
          unit={unitOf("temperature", log.units)}
          value={draft.temperature}
          onChange={(temperature) => patch({ temperature })}
          {...(log.visit.errors.temperature ? { error: log.visit.errors.temperature } : {})}
          testID="log-temperature"
        />
      </FieldRow>
      <TextField label="Note" value={draft.note} onChange={(note) => patch({ note })} />
    </View>
  );
}
