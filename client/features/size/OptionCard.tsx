import { View } from "@tamagui/core";
import {
  onScale,
  type Explanation,
  type OptionExplanations,
  type RankedOption,
  type SizeInput,
} from "@winter-bead/core";
import { explainEnds, explainOption, hasMembrane, planQuestion } from "@winter-bead/core/src/sizing";
import { useMemo, useState, type ReactNode } from "react";
import { Card, Caution, Pressable, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { litres, litresRange, shown, threeDigits, type Units } from "../../ui/format";
import { Big, Body, Small, Strong } from "../../ui/words";
import { COST_PARTS } from "./cost-parts";
import { More } from "./More";
import { days, daysRange, minutesInWords, money, moneyRange, perThousand, thousandOf, wholeMoney } from "./money";
import type { CrewPrices } from "./usePrices";

function FactLine({
  name,
  value,
  because,
}: {
  readonly name: string;
  readonly value: string;
  readonly because: Explanation | undefined;
}) {
  return (
    <Explained explanation={because}>
      <View flexDirection="row" justifyContent="space-between" gap="$3" minHeight={30} alignItems="baseline">
        <Body flexShrink={1}>{name}</Body>
        <Strong textDecorationLine={because ? "underline" : "none"} textDecorationStyle="dotted" textAlign="right">
          {value}
        </Strong>
      </View>
    </Explained>
  );
}

interface DetailProps {
  readonly option: RankedOption;
  readonly work: SizeInput;
  readonly prices: CrewPrices;
  readonly units: Units;
}

function CostParts({ option, because, prices }: DetailProps & { readonly because: OptionExplanations | undefined }) {
  const { currency, from } = prices;
  return (
    <View testID="cost-parts">
      {COST_PARTS.filter(([part]) => option.cost[part] > 0).map(([part, name]) => (
        <FactLine
          key={part}
          name={name}
          value={wholeMoney(option.cost[part], currency)}
          because={because?.parts[part]}
        />
      ))}
      <FactLine name="A year" value={wholeMoney(option.cost.total, currency)} because={because?.cost} />
      <Small>{`Prices: ${from}.`}</Small>
    </View>
  );
}

/** Litres until anything leaks and until a meter shows the limit, side by side. */
function TwoLives({ option, units, work }: DetailProps) {
  const { leak, meter } = option.lives;
  if (meter.typical < 1.02 * leak.typical) return null;
  const counted = work.until === "meter" ? "the meter" : "the first leak";
  return (
    <Body testID="option-lives">
      {`Until anything leaks ${litres(leak.typical, units)}, until a meter shows it ${litres(meter.typical, units)}: carbon dioxide and silica lie between. Here ${counted} counts.`}
    </Body>
  );
}

function Details(props: DetailProps) {
  const { option, work, prices, units } = props;
  const because = useMemo(() => {
    const question = planQuestion(work);
    const explained = question.ok ? explainOption(option, question.value, prices) : undefined;
    return explained?.ok ? explained.value : undefined;
  }, [option, work, prices]);
  const weight = shown("weight", option.weight, units);
  const pressure = shown("pressure", option.pressureLoss, units);
  const resin = shown("resinVolume", option.resinPerYear, units);
  const facts: readonly (readonly [string, string, Explanation | undefined])[] = [
    ["Water of one refill", litres(option.litres.typical, units), because?.litres],
    ["Days, busiest month", days(option.daysBusiest.typical), because?.daysBusiest],
    ["Days, quietest month", days(option.daysQuietest.typical), because?.daysQuietest],
    ["Refills a year", threeDigits(option.refillsPerYear), because?.refills],
    ["Resin a year", `${resin.text} ${resin.unit}`, because?.resin],
    ["Tap water a year", litres(option.waterPerYear, units), because?.water],
    ...(because?.waste ? [["Waste water a year", litres(option.wastePerYear, units), because.waste] as const] : []),
    ...(because?.energy ? [["Power a year", `${threeDigits(option.energyPerYear)} kWh`, because.energy] as const] : []),
    [perThousand(units), money(option.per1000Litres * thousandOf(units), prices.currency), because?.per1000Litres],
    ["Your time a year", minutesInWords(option.minutesPerYear), because?.hours],
    ...(option.perJob === undefined
      ? []
      : [["A job", money(option.perJob, prices.currency), because?.perJob] as const]),
    ["To buy", wholeMoney(option.purchase, prices.currency), because?.purchase],
    ["Weight of one vessel, wet", `${weight.text} ${weight.unit}`, because?.weight],
    ["Contact time", `${threeDigits(option.contactSeconds)} s`, because?.contact],
    ["Bed volumes an hour", `${threeDigits(option.bedVolumesPerHour)} per h`, because?.bedVolumes],
    ["Pressure lost in the beads", `${pressure.text} ${pressure.unit}`, because?.pressure],
  ];
  return (
    <View borderLeftColor="$line" borderLeftWidth={3} paddingLeft="$3" gap="$3" testID="option-details">
      <CostParts {...props} because={because} />
      <View>
        {facts.map(([name, value, why]) => (
          <FactLine key={name} name={name} value={value} because={why} />
        ))}
      </View>
      <TwoLives {...props} />
      {option.spec.supply === "bag" ? <Small>Buy what a season takes: opened resin ages.</Small> : null}
      <More label="The ends of the ranges" testID="option-ends">
        <RangeEnds {...props} />
      </More>
      <Small>{`The ${option.endsFirst} beads are full first.`}</Small>
      {hasMembrane(option.spec.before) ? (
        <Small>
          The membrane’s waste can serve a garden. Before it stand a sediment cartridge for rust and sand, and carbon
          for chlorine or chloramine, which harm it.
        </Small>
      ) : null}
    </View>
  );
}

/** Both ends of every range, each with its working. */
function RangeEnds({ option, work, prices, units }: DetailProps) {
  const ends = useMemo(() => {
    const question = planQuestion(work);
    const explained = question.ok ? explainEnds(option, question.value, prices) : undefined;
    return explained?.ok ? explained.value : undefined;
  }, [option, work, prices]);
  const { litres: charge, daysBusiest, daysQuietest, costRange } = option;
  const lines = (["low", "high"] as const).flatMap((end) => {
    const called = end === "low" ? "least" : "most";
    return [
      [`Water of one refill, ${called}`, litres(charge[end], units), ends?.litres[end]],
      [`Days, busiest month, ${called}`, days(daysBusiest[end]), ends?.daysBusiest[end]],
      [`Days, quietest month, ${called}`, days(daysQuietest[end]), ends?.daysQuietest[end]],
      [`A year, ${called}`, wholeMoney(costRange[end], prices.currency), ends?.cost[end]],
    ] as const;
  });
  return (
    <View>
      <Small>They are corners: least work with the softest water, most work with the hardest.</Small>
      {lines.map(([name, value, why]) => (
        <FactLine key={name} name={name} value={value} because={why} />
      ))}
    </View>
  );
}

export interface OptionCardProps extends DetailProps {
  readonly first?: boolean;
  readonly pinned: boolean;
  readonly onPin: () => void;
  readonly onKeep: () => void;
}

/** One option: its answer in words and numbers, its workings one tap below. */
export function OptionCard({ first = false, pinned, onPin, onKeep, ...props }: OptionCardProps) {
  const { option, prices, units } = props;
  const { currency } = prices;
  const [open, setOpen] = useState(false);
  const weight = shown("weight", option.weight, units);
  const perJob = option.perJob === undefined ? "" : `, ${money(option.perJob, currency)} a job`;
  return (
    <Card borderColor={first ? "$ink" : "$line"} testID="option" gap="$2">
      <Pressable
        onPress={() => setOpen(!open)}
        aria-expanded={open}
        aria-label={`${option.name}: every figure`}
        alignItems="stretch"
        style={{ textAlign: "left" }}
      >
        <Strong>{`${option.place}. ${option.name}`}</Strong>
        <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
          <Big
            fontSize={first ? "$6" : "$5"}
            lineHeight={first ? "$6" : "$5"}
            textDecorationLine="underline"
            textDecorationStyle="dotted"
            testID="option-cost"
          >
            {wholeMoney(option.cost.total, currency)}
          </Big>
          <Body testID="option-range">{`a year (${moneyRange(option.costRange.low, option.costRange.high, currency)})${perJob}`}</Body>
        </View>
      </Pressable>
      <Body testID="option-days">
        {`Refill every ${daysRange(option.daysBusiest.low, option.daysBusiest.high)} at the pace of the busiest month: ${litresRange(option.litres.low, option.litres.high, units)} a charge.`}
      </Body>
      <Small>{option.because}</Small>
      {option.polishes ? (
        <Small role="note" testID="polishes">
          {`Behind the membrane it reads about ${threeDigits(onScale(option.resinFeed, "nacl"))} ppm NaCl, within your limit already: the resin takes what no meter sees, and stands in when the membrane ages.`}
        </Small>
      ) : null}
      {option.twoPeople ? (
        <Caution>{`${weight.text} ${weight.unit} wet: lift it with two, or lay it down; local rules on lifting apply.`}</Caution>
      ) : null}
      {open ? <Details {...props} /> : null}
      <Actions>
        <TextButton onPress={() => setOpen(!open)} expanded={open}>
          {open ? "Fewer figures" : "Every figure"}
        </TextButton>
        <TextButton onPress={onPin} testID="pin">
          {pinned ? "Unpin" : "Pin to compare"}
        </TextButton>
        <TextButton onPress={onKeep} testID="keep-plan">
          Keep as a plan
        </TextButton>
      </Actions>
    </Card>
  );
}

const Actions = ({ children }: { readonly children: ReactNode }) => (
  <View flexDirection="row" flexWrap="wrap" columnGap="$5">
    {children}
  </View>
);
