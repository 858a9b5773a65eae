import { memo } from "react";
import { scaleLinear } from "d3-scale";
import { flowsUp, type SchoolLife, type VesselKind } from "@winter-bead/core";
import { View } from "@tamagui/core";
import { AnswerFrame } from "../../ui/AnswerFrame";
import { BeadColumn } from "../../ui/BeadColumn";
import { Card } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { litres, litresRange, shown, threeDigits, toShown, unitOf, type Units } from "../../ui/format";
import { Big, Body, Heading, Small, Strong } from "../../ui/words";
import { proportionOf } from "../rack/proportion";
import { SCHOOL_NAMES } from "./school-names";
import type { LitresAnswer, LitresQuestion } from "./litres";

function SchoolRow({
  life,
  most,
  answer,
  units,
}: {
  readonly life: SchoolLife;
  readonly most: number;
  readonly answer: LitresAnswer;
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
              <Strong
                testID={`school-${life.school}-typical`}
                textDecorationLine="underline"
                textDecorationStyle="dotted"
              >
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

const fullFirst = ({ life }: LitresAnswer) => `The ${life.limitingSide} beads are full first.`;

/** The bed once half of its life has gone through. */
function QuestionColumn({
  answer,
  question,
  kind,
  units,
  height,
}: {
  readonly answer: LitresAnswer;
  readonly question: LitresQuestion;
  readonly kind: VesselKind;
  readonly units: Units;
  readonly height: number;
}) {
  const { front, throughput } = answer.column;
  const depth = (share: number) => `${Math.round(100 * share)} %`;
  return (
    <BeadColumn
      testID="plan-column"
      throughput={throughput}
      transferUnits={answer.bed.transferUnits}
      front={front}
      up={flowsUp(kind)}
      proportion={proportionOf(question.diameter, question.grossVolume)}
      height={height}
      label={`After ${litres(answer.column.litres, units)}: front between ${depth(front.low)} and ${depth(front.high)} of the depth`}
    />
  );
}

export function Headline({
  answer,
  question,
  kind,
  units,
}: {
  readonly answer: LitresAnswer;
  readonly question: LitresQuestion;
  readonly kind: VesselKind;
  readonly units: Units;
}) {
  const chemistry = answer.schools.find((life) => life.school === "chemistry")!;
  const { text: number, unit } = shown("volume", chemistry.typical, units);
  return (
    <Card flexDirection="row" gap="$4" borderColor="$ink">
      <QuestionColumn answer={answer} question={question} kind={kind} units={units} height={150} />
      <View flex={1} gap="$1" minWidth={0}>
        {answer.life.reachable ? (
          <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
            <Big testID="life-typical" fontSize="$7" lineHeight="$7">
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
        <Body role="status">{answer.life.reason ?? fullFirst(answer)}</Body>
        {answer.hiddenLoad ? <Body>Until anything leaks: carbon dioxide and silica count here.</Body> : null}
        <Small>{`The drawing: after ${litres(answer.column.litres, units)}, half of it. The band: your feed’s range.`}</Small>
      </View>
    </Card>
  );
}

/** What was answered last stays in sight while the figures under it are typed. */
export function AnswerBar({
  answer,
  question,
  kind,
  units,
  trouble,
}: {
  readonly answer: LitresAnswer | undefined;
  readonly question: LitresQuestion | undefined;
  readonly kind: VesselKind;
  readonly units: Units;
  /** What keeps the figures as they stand from an answer: then this one is of those before. */
  readonly trouble: string | undefined;
}) {
  const chemistry = answer?.schools.find((life) => life.school === "chemistry");
  const number = chemistry && shown("volume", chemistry.typical, units);
  return (
    <AnswerFrame
      flexDirection="row"
      justifyContent="flex-start"
      alignItems="center"
      gap="$4"
      minHeight={112}
      testID="size-answer"
    >
      {answer && question && chemistry && number ? (
        <>
          <View opacity={trouble ? 0.5 : 1}>
            <QuestionColumn answer={answer} question={question} kind={kind} units={units} height={96} />
          </View>
          <View flex={1} minWidth={0} gap={2}>
            <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap" opacity={trouble ? 0.5 : 1}>
              <Big testID="life-typical" fontSize="$6" lineHeight="$6">
                {answer.life.reachable ? number.text : "Out of reach"}
              </Big>
              {answer.life.reachable ? <Strong>{number.unit}</Strong> : null}
            </View>
            {trouble ? (
              <Small role="alert" color="$rowan">{`${trouble} The litres are of the figures before.`}</Small>
            ) : (
              <>
                {answer.life.reachable ? (
                  <Small testID="life-range" color="$ink">
                    {litresRange(chemistry.low, chemistry.high, units)} to {question.limit} ppm NaCl
                  </Small>
                ) : null}
                <Small role="status">{answer.life.reason ?? fullFirst(answer)}</Small>
              </>
            )}
          </View>
        </>
      ) : (
        <Body role="alert">{trouble}</Body>
      )}
    </AnswerFrame>
  );
}

const percent = (share: number) => `${threeDigits(100 * share)} %`;

export const BedFacts = memo(function BedFacts({
  answer,
  units,
}: {
  readonly answer: LitresAnswer;
  readonly units: Units;
}) {
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
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
              {value}
            </Strong>
          </View>
        </Explained>
      ))}
      {heavy ? (
        <Explained explanation={weightExplanation}>
          <View flexDirection="row" justifyContent="space-between">
            <Body>Weight, wet</Body>
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
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
});

/** The one axis that all schools stand on. */
function LitreAxis({ most, units }: { readonly most: number; readonly units: Units }) {
  const shownMost = shown("volume", most, units);
  const x = scaleLinear()
    .domain([0, toShown("volume", most, units)])
    .range([0, 100]);
  return (
    <View height={24} position="relative" aria-hidden testID="litre-axis">
      {x.ticks(3).map((tick) => (
        <View key={tick} position="absolute" left={`${x(tick)}%`} top={0}>
          <View width={1.5} height={6} backgroundColor="$soft" />
          <Small marginLeft={tick === 0 ? 0 : -14}>{tick === 0 ? `0 ${shownMost.unit}` : threeDigits(tick)}</Small>
        </View>
      ))}
    </View>
  );
}

export const Schools = memo(function Schools({
  answer,
  units,
}: {
  readonly answer: LitresAnswer;
  readonly units: Units;
}) {
  const most = Math.max(...answer.schools.map((life) => life.high));
  const { least, most: largest, ratio } = answer.spread;
  const hasHistory = answer.schools.some((life) => life.school === "history");
  return (
    <View>
      <Heading>Four schools</Heading>
      {answer.schools.map((life) => (
        <SchoolRow key={life.school} life={life} most={most} answer={answer} units={units} />
      ))}
      <LitreAxis most={most} units={units} />
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
});
