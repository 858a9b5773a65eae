import { View, type TamaguiElement } from "@tamagui/core";
import { GRADE, describeReport, type FeedIons } from "@winter-bead/core";
import { useLocalSearchParams } from "expo-router";
import { memo, useEffect, useMemo, useRef, useState } from "react";
import { ofQuantities, useUnitDraft } from "../../forms/useUnitDraft";
import { useSettings } from "../../data/settings";
import { Card, Choice, HeavyButton, TextButton, Tick } from "../../ui/boxes";
import { FieldRow, NumberField } from "../../ui/fields";
import { percent, unitOf, type Units } from "../../ui/format";
import { roomFor } from "../../ui/room";
import { Screen } from "../../ui/Screen";
import { useWide } from "../../ui/width";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { optionsOf } from "../../forms/options";
import { SizePresets } from "../setup/SizePresets";
import { useTapWaters } from "../water/useTapWaters";
import { CELLS, fromLabPreset, labWater, parseLab, SAMPLE, SAMPLE_WATER, startLab, type TypedLab } from "./lab-setup";
import { LabResults } from "./LabResults";
import { useLab } from "./useLab";
import { LAB_ASSUMPTIONS, labQuestions, MOST_VARIANTS, VARIANT_WORDS, VARIANTS, type Variant } from "./variants";

interface LabWaterChoice {
  readonly id: string;
  readonly name: string;
  readonly feed: FeedIons | undefined;
}

/** Waters to run: every tap of which something is known, and a sample. */
function useLabWaters(): readonly LabWaterChoice[] {
  const { waters } = useTapWaters();
  return useMemo(() => {
    const sample = describeReport(SAMPLE_WATER);
    return [
      ...waters.flatMap(({ tap, values, described }) =>
        values ? [{ id: tap.id, name: tap.name, feed: labWater(values, described) }] : [],
      ),
      { id: SAMPLE, name: "A sample water", feed: labWater(SAMPLE_WATER, sample.ok ? sample.value : undefined) },
    ];
  }, [waters]);
}

const FINENESS = [
  { value: "usual", label: `Usual, ${CELLS.usual} cells` },
  { value: "fine", label: `Fine, ${CELLS.fine}` },
  { value: "finest", label: `Finest, ${CELLS.finest}: slow` },
] as const;

const ASSUMED = {
  cations: "which cations",
  anions: "which anions beside bicarbonate",
  alkalinity: "the alkalinity",
} as const;

function AssumedWords({ feed }: { readonly feed: FeedIons }) {
  if (feed.assumed.length === 0) return <Small>Every ion is from this tap’s report.</Small>;
  return (
    <Small testID="lab-assumed">{`Assumed, for want of a report: ${feed.assumed.map((part) => ASSUMED[part]).join(", ")}; a usual mix stands in.`}</Small>
  );
}

function VariantChoice({
  chosen,
  onChange,
}: {
  readonly chosen: readonly Variant[];
  readonly onChange: (chosen: readonly Variant[]) => void;
}) {
  const toggle = (variant: Variant) => {
    if (!chosen.includes(variant)) return onChange([...chosen, variant].slice(-MOST_VARIANTS));
    if (chosen.length > 1) onChange(chosen.filter((each) => each !== variant));
  };
  return (
    <View gap="$1" role="group" aria-label="Compare">
      <Small>{`Compare up to ${MOST_VARIANTS}`}</Small>
      <View flexDirection="row" flexWrap="wrap" gap="$2">
        {VARIANTS.map((variant) => (
          <Tick
            key={variant}
            on={chosen.includes(variant)}
            label={`${VARIANT_WORDS[variant].name}: ${VARIANT_WORDS[variant].what}`}
            onPress={() => toggle(variant)}
          >
            {VARIANT_WORDS[variant].name}
          </Tick>
        ))}
      </View>
    </View>
  );
}

interface BenchProps {
  readonly typed: TypedLab;
  readonly patch: (part: Partial<TypedLab>) => void;
  readonly errors: Partial<Record<keyof TypedLab, string>>;
  readonly waters: readonly LabWaterChoice[];
  readonly water: LabWaterChoice;
  readonly units: Units;
}

/** Water, bed, limit and marks of the experiment. */
const Bench = memo(function Bench({ typed, patch, errors, waters, water, units }: BenchProps) {
  const field = (
    name: Exclude<keyof TypedLab, "tapId" | "grade" | "chosen" | "fineness">,
    label: string,
    unit: string,
  ) => (
    <NumberField
      key={name}
      label={label}
      unit={unit}
      value={typed[name]}
      onChange={(value) => patch({ [name]: value })}
      testID={`lab-${name}`}
      {...(errors[name] ? { error: errors[name] } : {})}
    />
  );
  return (
    <View gap="$4">
      <VariantChoice chosen={typed.chosen} onChange={(chosen) => patch({ chosen })} />
      <View gap="$1">
        <Choice
          label="Water"
          value={water.id}
          options={waters.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(tapId) => patch({ tapId })}
        />
        {water.feed ? <AssumedWords feed={water.feed} /> : null}
      </View>
      <Heading>Bed</Heading>
      <Choice label="Resin" value={typed.grade} options={optionsOf(GRADE)} onChange={(grade) => patch({ grade })} />
      <SizePresets units={units} onChoose={(preset) => patch(fromLabPreset(preset, units))} />
      <FieldRow>
        {field("resin", "Resin in it", unitOf("resinVolume", units))}
        {field("diameter", "Inner diameter", unitOf("length", units))}
        {field("flow", "Flow", unitOf("flow", units))}
        {field("temperature", "Temperature", unitOf("temperature", units))}
      </FieldRow>
      <Heading>Limit and marks</Heading>
      <FieldRow>
        {field("limit", "Limit", "ppm NaCl")}
        {field("silica", "Silica mark", "mg/L SiO2")}
        {field("ammonia", "Ammonia mark", "mg/L NH4")}
        {field("perDay", "Water a day", unitOf("volume", units))}
      </FieldRow>
      <Choice
        label="How fine the bed is cut"
        value={typed.fineness}
        options={FINENESS}
        onChange={(fineness) => patch({ fineness })}
      />
      <Small>
        {`Assumed: lying on its side ${percent(LAB_ASSUMPTIONS.bypass)} % goes round the beads; ${LAB_ASSUMPTIONS.aerationHours} h of aeration; a membrane holds back ${percent(LAB_ASSUMPTIONS.rejection)} %; separate beds hold ${LAB_ASSUMPTIONS.cationBed} and ${LAB_ASSUMPTIONS.anionBed} eq/L.`}
      </Small>
    </View>
  );
});

function Progress({ share, onStop }: { readonly share: number; readonly onStop: () => void }) {
  return (
    <Card testID="lab-progress" gap="$2">
      <Strong role="status">{`Running… ${Math.round(100 * share)} %`}</Strong>
      <View
        height={10}
        backgroundColor="$ice"
        borderRadius="$1"
        overflow="hidden"
        role="progressbar"
        aria-label="Simulation"
        aria-valuenow={Math.round(100 * share)}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <View height={10} width={`${100 * share}%`} backgroundColor="$ink" />
      </View>
      <TextButton onPress={onStop} testID="lab-stop">
        Stop
      </TextButton>
    </Card>
  );
}

const inOtherUnits = ofQuantities<TypedLab>({
  ...{ resin: "resinVolume", diameter: "length", flow: "flow", temperature: "temperature", perDay: "volume" },
});

/** The Lab: choose a water and a train, press run, and watch the bed give way. */
export function LabScreen() {
  const { units } = useSettings();
  const wide = useWide();
  const { tap } = useLocalSearchParams<{ tap?: string }>();
  const initial = useMemo(() => startLab(units), [units]);
  const [typed, patch] = useUnitDraft<TypedLab>("lab", initial, inOtherUnits);
  const waters = useLabWaters();
  const lab = useLab();
  const wanted = typed.tapId === "" ? tap : typed.tapId;
  const water =
    waters.find(({ id }) => id === wanted) ?? waters.find(({ feed }) => feed?.assumed.length === 0) ?? waters[0]!;
  const { setup, errors } = useMemo(
    () => (water.feed ? parseLab(typed, water.feed, units) : { setup: undefined, errors: {} }),
    [typed, water.feed, units],
  );
  const running = lab.progress !== undefined;
  const film = useRef<TamaguiElement>(null);
  // Each press, also one while the run of the opening still goes on.
  const [presses, setPresses] = useState(0);
  const { run } = lab;
  // It runs already when it is opened: a bed that gives way says more than a form.
  const [opened] = useState(setup);
  useEffect(() => {
    if (opened) void run(opened, labQuestions(opened, typed.chosen));
    // Once, with what stood there.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [opened, run]);
  useEffect(() => {
    if (presses > 0) void (film.current as Partial<HTMLElement> | null)?.scrollIntoView?.({ block: "start" });
  }, [presses]);
  const results = (
    <View gap="$4" ref={film} minHeight={roomFor(lab.runs.length > 0 || wide)}>
      {lab.trouble ? <Body role="alert">{lab.trouble}</Body> : null}
      {running ? <Progress share={lab.progress!} onStop={lab.stop} /> : null}
      {lab.runs.length > 0 && lab.setup ? (
        <LabResults key={lab.runs.map((run) => run.variant).join(" ")} runs={lab.runs} setup={lab.setup} />
      ) : !running ? (
        <Body color="$soft">
          Press run: litre by litre the beads fill with the ions of this water, and below them you see when the meter
          shows it, and what leaks before.
        </Body>
      ) : null}
    </View>
  );
  const bench = <Bench typed={typed} patch={patch} errors={errors} waters={waters} water={water} units={units} />;
  const runButton = (
    <HeavyButton
      onPress={() => {
        if (!setup) return;
        setPresses((before) => before + 1);
        void run(setup, labQuestions(setup, typed.chosen));
      }}
      disabled={!setup}
      testID="lab-run"
    >
      {lab.runs.length > 0 ? "Run again" : "Run"}
    </HeavyButton>
  );
  const intro = <Body color="$soft">Watch a bed give way.</Body>;
  if (wide)
    return (
      <Screen title="The Lab" detail={results}>
        <View gap="$4">
          {intro}
          {runButton}
          {bench}
        </View>
      </Screen>
    );
  return (
    <Screen title="The Lab" footer={<View padding="$3">{runButton}</View>}>
      <View gap="$5">
        {results}
        {bench}
      </View>
    </Screen>
  );
}
