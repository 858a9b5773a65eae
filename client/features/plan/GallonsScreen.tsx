import {
  capacityRange,
  flowsUp,
  RANGES,
  isWithin,
  outOfRangeSentence,
  TRADE_CONSTANT_BAND,
  type CapacityRange,
  type Grade,
  type Range,
  type School,
  type SchoolLife,
  type VesselKind,
} from "@winter-bead/core";
import { View } from "@tamagui/core";
import { useMemo, useState } from "react";
import { useDraft } from "../../data/draft";
import { useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { BeadColumn } from "../../ui/BeadColumn";
import { Card, Choice, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import {
  litres,
  litresRange,
  scaleUnit,
  shown,
  threeDigits,
  toInternal,
  toShown,
  typedNumber,
  unitOf,
  type Units,
} from "../../ui/format";
import { Screen, useWide } from "../../ui/Screen";
import { Big, Body, Heading, Small, Strong, Title } from "../../ui/words";
import { proportionOf } from "../run/RigColumn";
import { useRigs } from "../run/useRigs";
import { GRADE_OPTIONS, SCALE_OPTIONS, VESSEL_PRESETS, type VesselPreset } from "../vessels/presets";
import { toScale } from "../vessels/TapForm";
import { answerGallons, gradeSides, type GallonsAnswer, type GallonsQuestion } from "./gallons";

/** Typed text; lengths and volumes in the unit system it was typed in. */
interface Typed {
  low: string;
  typical: string;
  high: string;
  scale: string;
  grade: Grade;
  resin: string;
  diameter: string;
  grossVolume: string;
  emptyWeight: string;
  kind: VesselKind;
  flow: string;
  limit: string;
  temperature: string;
  ph: string;
  alkalinity: string;
  silica: string;
  packing: string;
  storage: string;
  spread: string;
  bypass: string;
  constant: string;
  ratedVolume: string;
  ratedPpm: string;
  ratedResin: string;
}

const text = (value: number) => String(Number(value.toPrecision(4)));

function fromPreset(preset: VesselPreset, units: Units) {
  return {
    kind: preset.kind,
    resin: text(toShown("resinVolume", preset.grossVolume * preset.fillFraction, units)),
    grossVolume: text(toShown("volume", preset.grossVolume, units)),
    diameter: text(toShown("length", preset.diameter, units)),
    emptyWeight: text(toShown("weight", preset.emptyWeight, units)),
    flow: text(toShown("flow", preset.flow, units)),
  };
}

const startWith = (units: Units): Typed => ({
  low: "130",
  typical: "160",
  high: "210",
  scale: "nacl",
  grade: "virgin",
  ...fromPreset(VESSEL_PRESETS[3]!, units),
  limit: "10",
  temperature: text(toShown("temperature", 15, units)),
  ph: "",
  alkalinity: "",
  silica: "",
  packing: "1",
  storage: "1",
  spread: "0.05",
  bypass: "0",
  constant: "200000",
  ratedVolume: text(toShown("volume", 1600, units)),
  ratedPpm: "180",
  ratedResin: text(toShown("resinVolume", 10, units)),
});

interface Parsed {
  readonly question?: GallonsQuestion;
  readonly errors: Partial<Record<keyof Typed, string>>;
}

type Quantity = Parameters<typeof toInternal>[0];

/** Reads every field; one that is wrong has its sentence and the rest is kept. */
function parse(typed: Typed, units: Units, history: CapacityRange | undefined): Parsed {
  const errors: Partial<Record<keyof Typed, string>> = {};
  const read = (field: keyof Typed, range: Range, quantity?: Quantity): number => {
    const number = typedNumber(typed[field]);
    const value = number === undefined ? undefined : quantity ? toInternal(quantity, number, units) : number;
    if (value === undefined) errors[field] = `${range.name} is not a number yet.`;
    else if (!isWithin(value, range)) errors[field] = outOfRangeSentence(range);
    return value ?? NaN;
  };
  const optional = (field: keyof Typed, range: Range) => (typed[field].trim() === "" ? undefined : read(field, range));
  const feed = {
    low: read("low", RANGES.value),
    typical: read("typical", RANGES.value),
    high: read("high", RANGES.value),
  };
  if (feed.low > feed.typical) errors.low = "The lowest must not exceed the typical.";
  if (feed.high < feed.typical) errors.high = "The highest must not be below the typical.";
  const rated = typed.ratedVolume.trim() !== "" && typed.ratedPpm.trim() !== "" && typed.ratedResin.trim() !== "";
  const question: GallonsQuestion = {
    feed,
    scale: toScale(typed.scale),
    temperature: read("temperature", RANGES.temperature, "temperature"),
    ph: optional("ph", RANGES.ph),
    alkalinity: optional("alkalinity", RANGES.alkalinity),
    silica: optional("silica", RANGES.silica),
    grade: typed.grade,
    resin: read("resin", RANGES.volume, "resinVolume"),
    diameter: read("diameter", RANGES.diameter, "length"),
    grossVolume: read("grossVolume", { ...RANGES.volume, name: "The vessel's volume" }, "volume"),
    emptyWeight: read("emptyWeight", RANGES.weight, "weight"),
    flow: read("flow", RANGES.flow, "flow"),
    limit: read("limit", { ...RANGES.value, name: "The limit", unit: "ppm NaCl" }),
    packing: read("packing", RANGES.factor),
    storage: read("storage", RANGES.factor),
    spread: read("spread", RANGES.spread),
    bypass: read("bypass", RANGES.bypass),
    constant: read("constant", RANGES.constant),
    rating: rated
      ? {
          ratedLitres: read("ratedVolume", RANGES.ratedLitres, "volume"),
          ratedPpm: read("ratedPpm", RANGES.ratedPpm),
          scale: "nacl",
          resinLitres: read("ratedResin", RANGES.volume, "resinVolume"),
        }
      : undefined,
    history,
  };
  if (question.resin > question.grossVolume * 1.001) errors.resin = "There is more resin than the vessel holds.";
  return Object.keys(errors).length > 0 ? { errors } : { question, errors };
}

const SCHOOL_NAMES: Readonly<Record<School, string>> = {
  constant: "Trade constant / ppm",
  rating: "Maker's rating, scaled",
  chemistry: "Resin chemistry, your limit",
  history: "Your own past charges",
};

function SchoolRow({
  life,
  most,
  answer,
  units,
}: {
  readonly life: SchoolLife;
  readonly most: number;
  readonly answer: GallonsAnswer;
  readonly units: Units;
}) {
  const share = (value: number): `${number}%` => `${Math.min(100, Math.max(0, (100 * value) / most))}%`;
  return (
    <View testID={`school-${life.school}`}>
      <Explained explanation={answer.explanations[life.school]} testID={`explain-${life.school}`}>
        <View gap={3} paddingVertical={5}>
          <View flexDirection="row" justifyContent="space-between" alignItems="baseline" columnGap="$2" flexWrap="wrap">
            <Body>{SCHOOL_NAMES[life.school]}</Body>
            <Body>
              <Strong testID={`school-${life.school}-typical`} textDecorationLine="underline">
                {litres(life.typical, units)}
              </Strong>
              {`  ${litresRange(life.low, life.high, units)}`}
            </Body>
          </View>
          <View position="relative" height={8} backgroundColor="$ice" borderRadius="$1" overflow="hidden" aria-hidden>
            <View
              position="absolute"
              left={share(life.low)}
              width={share(life.high - life.low)}
              top={0}
              bottom={0}
              backgroundColor="$frost"
            />
            <View position="absolute" left={share(life.typical)} width={3} top={0} bottom={0} backgroundColor="$ink" />
          </View>
        </View>
      </Explained>
    </View>
  );
}

function Headline({
  answer,
  question,
  kind,
  units,
}: {
  readonly answer: GallonsAnswer;
  readonly question: GallonsQuestion;
  readonly kind: VesselKind;
  readonly units: Units;
}) {
  const chemistry = answer.schools.find((life) => life.school === "chemistry")!;
  const { text: number, unit } = shown("volume", chemistry.typical, units);
  const { front, throughput } = answer.column;
  const depth = (share: number) => `${Math.round(100 * share)} %`;
  return (
    <Card flexDirection="row" gap="$4" borderColor="$ink">
      <BeadColumn
        testID="plan-column"
        throughput={throughput}
        transferUnits={answer.bed.transferUnits}
        front={front}
        up={flowsUp(kind)}
        proportion={proportionOf(question.diameter, question.grossVolume)}
        height={150}
        label={`After ${litres(answer.column.litres, units)}: front between ${depth(front.low)} and ${depth(front.high)} of the depth`}
      />
      <View flex={1} gap="$1" minWidth={0}>
        {answer.life.reachable ? (
          <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
            <Big testID="life-typical" fontSize={40} lineHeight={44}>
              {number}
            </Big>
            <Strong>{unit}</Strong>
          </View>
        ) : (
          <Strong fontSize="$4">Out of reach</Strong>
        )}
        {answer.life.reachable ? (
          <Body testID="life-range">
            {litresRange(chemistry.low, chemistry.high, units)} to {question.limit} ppm NaCl
          </Body>
        ) : null}
        <Body role="status">{answer.life.reason ?? `The ${answer.life.limitingSide} beads end it.`}</Body>
        {answer.hiddenLoad ? (
          <Body>Until anything leaks: carbon dioxide and silica count here, and a meter shows their end later.</Body>
        ) : null}
        <Small>{`Drawn after ${litres(answer.column.litres, units)}; the band is your feed's range.`}</Small>
      </View>
    </Card>
  );
}

const percent = (share: number) => `${threeDigits(100 * share)} %`;

function BedFacts({ answer, units }: { readonly answer: GallonsAnswer; readonly units: Units }) {
  const { bed, bedExplanations, weight, weightExplanation, flow } = answer;
  const pressure = shown("pressure", bed.pressureLoss, units);
  const facts = [
    { name: "Contact time", value: `${threeDigits(bed.contactSeconds)} s`, because: bedExplanations.contact },
    {
      name: "Bed volumes an hour",
      value: `${threeDigits(bed.bedVolumesPerHour)} per h`,
      because: bedExplanations.bedVolumes,
    },
    {
      name: "Pressure loss in the beads",
      value: `${pressure.text} ${pressure.unit}`,
      because: bedExplanations.pressure,
    },
  ];
  const heavy = weight && shown("weight", weight.kilograms, units);
  return (
    <View gap="$2">
      <Heading>In the vessel</Heading>
      {facts.map(({ name, value, because }) => (
        <Explained key={name} explanation={because}>
          <View flexDirection="row" justifyContent="space-between">
            <Body>{name}</Body>
            <Strong textDecorationLine="underline">{value}</Strong>
          </View>
        </Explained>
      ))}
      {heavy ? (
        <Explained explanation={weightExplanation}>
          <View flexDirection="row" justifyContent="space-between">
            <Body>Weight, wet</Body>
            <Strong textDecorationLine="underline">
              {heavy.text} {heavy.unit}
              {weight.twoPeople ? ", lift with two" : ""}
            </Strong>
          </View>
        </Explained>
      ) : null}
      {flow ? (
        <Body testID="flow-verdict">{`Turned down to ${shown("flow", flow.lower.flow, units).text} ${unitOf("flow", units)}, contact alone gives ${percent(flow.byContact)} more litres; the water not used gives ${percent(flow.bySaving)} more jobs.`}</Body>
      ) : null}
      {answer.life.warnings.map((warning) => (
        <Body key={warning.code} role="note">
          {warning.message}
        </Body>
      ))}
    </View>
  );
}

function Schools({ answer, units }: { readonly answer: GallonsAnswer; readonly units: Units }) {
  const most = Math.max(...answer.schools.map((life) => life.high));
  const { least, most: largest, ratio } = answer.spread;
  const hasHistory = answer.schools.some((life) => life.school === "history");
  return (
    <View>
      <Heading>Four schools</Heading>
      {answer.schools.map((life) => (
        <SchoolRow key={life.school} life={life} most={most} answer={answer} units={units} />
      ))}
      {hasHistory ? null : (
        <Small testID="school-history">
          Your own past charges: none of this resin has ended yet; from the first one on they stand here.
        </Small>
      )}
      {answer.claimTooHigh ? (
        <Body role="note">{`The rating claims ${answer.claimTooHigh.toFixed(2)} eq per litre of resin: more than the beads' own chemistry can hold.`}</Body>
      ) : null}
      <Small testID="schools-spread">{`From ${litres(least, units)} to ${litres(largest, units)}: ${ratio.toFixed(1)} times apart. Tap a number for its working.`}</Small>
    </View>
  );
}

interface InputsProps {
  readonly typed: Typed;
  readonly patch: (part: Partial<Typed>) => void;
  readonly errors: Partial<Record<keyof Typed, string>>;
  readonly units: Units;
}

function Inputs({ typed, patch, errors, units }: InputsProps) {
  const { records: taps } = useRecords("taps");
  const [more, setMore] = useState(false);
  const field = (name: keyof Typed, label: string, unit?: string, hint?: string) => (
    <NumberField
      key={name}
      label={label}
      value={typed[name]}
      onChange={(value) => patch({ [name]: value })}
      testID={`plan-${name}`}
      {...(unit ? { unit } : {})}
      {...(hint ? { hint } : {})}
      {...(errors[name] ? { error: errors[name] } : {})}
    />
  );
  const ppm = scaleUnit(toScale(typed.scale));
  return (
    <View gap="$4">
      <Heading>Feed</Heading>
      {taps.length > 0 ? (
        <Choice
          label="From a tap"
          value={taps.find((tap) => text(tap.typical) === typed.typical && String(tap.scale) === typed.scale)?.id}
          options={taps.map((tap) => ({ value: tap.id, label: tap.name }))}
          onChange={(id) => {
            const tap = taps.find((each) => each.id === id)!;
            patch({
              low: text(tap.low),
              typical: text(tap.typical),
              high: text(tap.high),
              scale: String(tap.scale),
              ph: tap.ph === undefined ? "" : text(tap.ph),
              alkalinity: tap.alkalinity === undefined ? "" : text(tap.alkalinity),
              silica: tap.silica === undefined ? "" : text(tap.silica),
              ...(tap.temperature === undefined
                ? {}
                : { temperature: text(toShown("temperature", tap.temperature, units)) }),
            });
          }}
        />
      ) : null}
      <Choice
        label="Scale of the meter"
        value={typed.scale}
        options={SCALE_OPTIONS}
        onChange={(scale) => patch({ scale })}
      />
      <FieldRow>
        {field("low", "Lowest", ppm)}
        {field("typical", "Typical", ppm)}
        {field("high", "Highest", ppm)}
      </FieldRow>
      <Heading>Resin and vessel</Heading>
      <Choice label="Resin" value={typed.grade} options={GRADE_OPTIONS} onChange={(grade) => patch({ grade })} />
      <View flexDirection="row" flexWrap="wrap" gap="$2" role="group" aria-label="Start from a size">
        {VESSEL_PRESETS.map((preset) => (
          <PlainButton
            key={preset.name}
            onPress={() => patch(fromPreset(preset, units))}
          >{`${preset.name}, ${threeDigits(toShown("volume", preset.grossVolume, units))} ${unitOf("volume", units)}`}</PlainButton>
        ))}
      </View>
      <FieldRow>
        {field("resin", "Resin in it", unitOf("resinVolume", units))}
        {field("diameter", "Inner diameter", unitOf("length", units))}
        {field("flow", "Flow", unitOf("flow", units))}
        {field("limit", "Limit", "ppm NaCl")}
      </FieldRow>
      <Choice
        label="Limit by school"
        value={typed.limit}
        options={[
          { value: "1", label: "Aquarium 1" },
          { value: "2", label: "Aquarium 2" },
          { value: "10", label: "Glass 10" },
          { value: "20", label: "Glass 20" },
        ]}
        onChange={(limit) => patch({ limit })}
      />
      <TextButton onPress={() => setMore(!more)} expanded={more} testID="assumptions">
        {more ? "Close the assumptions" : "Assumptions, each yours to change"}
      </TextButton>
      {more ? (
        <View gap="$3">
          <FieldRow>
            {field(
              "constant",
              "Trade constant",
              "gal·ppm/ft³ NaCl",
              `${(TRADE_CONSTANT_BAND.low / 1000).toFixed(0)},000 to ${(TRADE_CONSTANT_BAND.high / 1000).toFixed(0)},000 are in use`,
            )}
            {field("ratedVolume", "A maker's rating", unitOf("volume", units), "An example: put in the one you doubt")}
            {field("ratedPpm", "at a feed of", "ppm NaCl")}
            {field("ratedResin", "from resin of", unitOf("resinVolume", units))}
          </FieldRow>
          <FieldRow>
            {field("ph", "pH")}
            {field("alkalinity", "Alkalinity", "mg/L CaCO3")}
            {field("silica", "Silica", "mg/L")}
            {field("temperature", "Temperature", unitOf("temperature", units))}
          </FieldRow>
          <FieldRow>
            {field("storage", "Left after storage", "", "1 is fresh")}
            {field("packing", "Packing", "", "1 settled, 0.95 poured, 0.8 loose")}
            {field("spread", "Uneven flow", "", "spread of the front")}
            {field("bypass", "Bypass share", "", "0 when all goes through the beads")}
          </FieldRow>
          <FieldRow>
            {field("grossVolume", "Vessel inside", unitOf("volume", units))}
            {field("emptyWeight", "Weight empty", unitOf("weight", units))}
          </FieldRow>
          <Small>{`${typed.grade} resin is taken to hold ${gradeSides(typed.grade).cation} eq/L on the cation and ${gradeSides(typed.grade).anion} eq/L on the anion side.`}</Small>
        </View>
      ) : null}
    </View>
  );
}

/** The owner's capacity with this resin, from a rig that has ended charges of it. */
function useOwnHistory(grade: Grade): CapacityRange | undefined {
  const { rigs } = useRigs();
  return useMemo(() => {
    const taught = rigs.find(
      (view) => (view.assessment?.lessons?.ended.length ?? 0) > 0 && view.assessment?.standing?.charge.grade === grade,
    );
    return taught?.assessment?.lessons && capacityRange(taught.assessment.lessons.grid);
  }, [rigs, grade]);
}

/** Gallons from this tap: every digit answers at once, under four schools side by side. */
export function GallonsScreen() {
  const { units } = useSettings();
  const wide = useWide();
  const initial = useMemo(() => startWith(units), [units]);
  const [typed, patch] = useDraft<Typed>(`gallons:${units}`, initial);
  const history = useOwnHistory(typed.grade);
  const { question, errors } = parse(typed, units, history);
  const outcome = question ? answerGallons(question, units) : undefined;
  const trouble = Object.values(errors)[0] ?? (outcome && "fault" in outcome ? outcome.fault.message : undefined);
  const inputs = <Inputs typed={typed} patch={patch} errors={errors} units={units} />;
  const answered = outcome && "answer" in outcome && question ? { answer: outcome.answer, question } : undefined;
  const first = answered ? (
    <View gap="$4" testID="answers">
      <Headline {...answered} kind={typed.kind} units={units} />
      <Schools answer={answered.answer} units={units} />
    </View>
  ) : (
    <Card>
      <Body role="alert">{trouble}</Body>
    </Card>
  );
  const then = answered ? <BedFacts answer={answered.answer} units={units} /> : null;
  if (wide)
    return (
      <Screen
        title={titleOf(units)}
        detail={
          <View gap="$5">
            {first}
            {then}
          </View>
        }
      >
        {inputs}
      </Screen>
    );
  return (
    <Screen>
      <View gap="$5">
        <Title>{titleOf(units)}</Title>
        {first}
        {inputs}
        {then}
      </View>
    </Screen>
  );
}

const titleOf = (units: Units) => (units === "us" ? "Gallons from this tap" : "Litres from this tap");
