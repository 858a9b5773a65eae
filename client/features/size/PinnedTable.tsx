import { View } from "@tamagui/core";
import type { RankedOption } from "@winter-bead/core";
import { BEFORE_WORDS } from "@winter-bead/core/src/sizing";
import { ScrollView } from "react-native";
import { Card, TextButton } from "../../ui/boxes";
import { Measured } from "../../ui/Measured";
import { litres, shown, threeDigits, type Units } from "../../ui/format";
import { Body, Heading, Small, Strong } from "../../ui/words";
import { COST_PARTS } from "./cost-parts";
import { days, minutesInWords, money, perThousand, thousandOf, wholeMoney } from "./money";

const LABEL_WIDTH = 104;
const LEAST_WIDTH = 108;

interface Row {
  readonly name: string;
  readonly of: (option: RankedOption) => string;
  /** A line that is 0 for every option is left out. */
  readonly amount?: (option: RankedOption) => number;
  /** What is less is better; marks the best. */
  readonly least?: (option: RankedOption) => number;
}

function rowsFor(currency: string, units: Units): readonly Row[] {
  const whole = (value: number) => wholeMoney(value, currency);
  return [
    { name: "A year", of: ({ cost }) => whole(cost.total), least: ({ cost }) => cost.total },
    ...COST_PARTS.map(([part, name]): Row => ({
      name: name.split(",")[0]!,
      of: ({ cost }) => whole(cost[part]),
      amount: ({ cost }) => cost[part],
    })),
    {
      name: "A job",
      of: ({ perJob }) => (perJob === undefined ? "" : money(perJob, currency)),
      amount: ({ perJob }) => perJob ?? 0,
    },
    { name: perThousand(units), of: ({ per1000Litres }) => money(per1000Litres * thousandOf(units), currency) },
    {
      name: "Resin a year",
      of: ({ resinPerYear }) =>
        `${shown("resinVolume", resinPerYear, units).text} ${shown("resinVolume", resinPerYear, units).unit}`,
    },
    { name: "Time a year", of: ({ minutesPerYear }) => minutesInWords(minutesPerYear) },
    { name: "To buy", of: ({ purchase }) => whole(purchase), least: ({ purchase }) => purchase },
    {
      name: "Refills a year",
      of: ({ refillsPerYear }) => threeDigits(refillsPerYear),
      least: ({ refillsPerYear }) => refillsPerYear,
    },
    { name: "Days, busiest", of: ({ daysBusiest }) => days(daysBusiest.typical) },
    { name: "Days, quietest", of: ({ daysQuietest }) => days(daysQuietest.typical) },
    { name: "A charge", of: (option) => litres(option.litres.typical, units) },
    {
      name: "Wet weight",
      of: ({ weight }) => `${shown("weight", weight, units).text} ${shown("weight", weight, units).unit}`,
      least: ({ weight }) => weight,
    },
    { name: "Contact", of: ({ contactSeconds }) => `${threeDigits(contactSeconds)} s` },
    {
      name: "Pressure lost",
      of: ({ pressureLoss }) =>
        `${shown("pressure", pressureLoss, units).text} ${shown("pressure", pressureLoss, units).unit}`,
    },
    {
      name: "Waste a year",
      of: ({ wastePerYear }) => litres(wastePerYear, units),
      amount: ({ wastePerYear }) => wastePerYear,
    },
  ];
}

const Cell = ({
  children,
  strong,
  width,
}: {
  readonly children: string;
  readonly strong: boolean;
  readonly width: number;
}) => (
  <View width={width} paddingHorizontal="$1" role="cell">
    {strong ? <Strong>{`${children} ◂`}</Strong> : <Body>{children}</Body>}
  </View>
);

/** Up to three options side by side, the best of each line marked. */
export function PinnedTable({
  options,
  currency,
  units,
  onUnpin,
}: {
  readonly options: readonly RankedOption[];
  readonly currency: string;
  readonly units: Units;
  readonly onUnpin: (name: string) => void;
}) {
  if (options.length === 0) return null;
  const rows = rowsFor(currency, units).filter(
    ({ amount }) => amount === undefined || options.some((option) => amount(option) > 0),
  );
  return (
    <Card testID="pinned" gap="$3">
      <Heading>{options.length === 1 ? "Pinned: pin another beside it" : "Side by side"}</Heading>
      <Measured>
        {(all) => (
          <Table
            options={options}
            rows={rows}
            width={Math.max(LEAST_WIDTH, (all - LABEL_WIDTH) / options.length)}
            onUnpin={onUnpin}
          />
        )}
      </Measured>
    </Card>
  );
}

function Table({
  options,
  rows,
  width,
  onUnpin,
}: {
  readonly options: readonly RankedOption[];
  readonly rows: readonly Row[];
  /** Of one option's column. */
  readonly width: number;
  readonly onUnpin: (name: string) => void;
}) {
  return (
    <ScrollView horizontal>
      <View role="table" aria-label="Pinned options" gap="$1">
        <View flexDirection="row" role="row" alignItems="flex-start">
          <View width={LABEL_WIDTH} role="columnheader" />
          {options.map(({ name, place, spec }) => (
            <View key={name} width={width} paddingHorizontal="$1" role="columnheader">
              <Strong>{`${place}. ${spec.vessel.name}`}</Strong>
              <Small>
                {[
                  spec.train === "twin" ? "two side by side" : spec.train === "lead-lag" ? "two in series" : "",
                  BEFORE_WORDS[spec.before],
                  `${spec.grade}${spec.supply === "bulk" ? ", bulk" : ""}`,
                ]
                  .filter((part) => part !== "")
                  .join(", ")}
              </Small>
              <TextButton onPress={() => onUnpin(name)} label={`Unpin ${name}`}>
                Unpin
              </TextButton>
            </View>
          ))}
        </View>
        {rows.map((row) => {
          const best = row.least ? Math.min(...options.map(row.least)) : undefined;
          return (
            <View
              key={row.name}
              flexDirection="row"
              role="row"
              borderTopColor="$line"
              borderTopWidth={1}
              minHeight={30}
              alignItems="center"
            >
              <View width={LABEL_WIDTH} role="rowheader">
                <Small>{row.name}</Small>
              </View>
              {options.map((option) => (
                <Cell
                  key={option.name}
                  width={width}
                  strong={options.length > 1 && best !== undefined && row.least!(option) === best}
                >
                  {row.of(option)}
                </Cell>
              ))}
            </View>
          );
        })}
      </View>
    </ScrollView>
  );
}
