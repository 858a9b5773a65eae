import { View } from "@tamagui/core";
import type { RankedOption } from "@winter-bead/core";
import { filledAtOnce, hasMembrane, resinIn, vesselsIn } from "@winter-bead/core/src/sizing";
import Svg, { G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { shown, threeDigits, type Units } from "../../ui/format";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";
import type { Palette } from "../../ui/theme";
import { Heading, Small } from "../../ui/words";
import { vesselShape } from "../refill/vessel-shape";

const MOST = 4;
const TALLEST = 120;
/** Under the ground line: a year with its refills. */
const YEAR = { top: 30, height: 14 };
const FOOT = 64;
/** More ticks than this in a year run into one. */
const MOST_TICKS = 60;

/** Sizes are hinted, so that a cartridge stays readable beside a tank. */
const heightOf = (litres: number, largest: number) => TALLEST * Math.max(0.4, (litres / largest) ** 0.35);

/** What an option takes, drawn: its vessels with what they hold, RO before them, and a year with a tick for each refill. */
function OneOption({
  option,
  largest,
  width,
  colours,
  units,
}: {
  readonly option: RankedOption;
  readonly largest: number;
  readonly width: number;
  readonly colours: Palette;
  readonly units: Units;
}) {
  const { spec, refillsPerYear } = option;
  const { text, unit } = shown("volume", spec.vessel.grossVolume, units);
  const height = heightOf(spec.vessel.grossVolume, largest);
  const shape = vesselShape(spec.vessel.kind, spec.vessel, height);
  const count = vesselsIn(spec);
  const fill = resinIn(spec.vessel) / spec.vessel.grossVolume;
  const top = shape.floor - (shape.floor - shape.rim) * fill;
  const refills = Math.round(refillsPerYear);
  const ticks = Math.min(MOST_TICKS, refills);
  const year = width - 16;
  const membrane = hasMembrane(spec.before) ? 16 : 0;
  const needed = count * shape.width + (count - 1) * 6 + membrane;
  // Two beside each other are drawn smaller rather than cut off.
  const scale = Math.min(1, (width - 10) / needed);
  const left = (width - scale * needed) / 2;
  return (
    <G>
      {membrane ? (
        <>
          <Rect
            x={left - 4}
            y={TALLEST - 46}
            width={12}
            height={46}
            rx={3}
            fill={colours.card}
            stroke={colours.ink}
            strokeWidth={1.6}
          />
          <SvgText x={left + 2} y={TALLEST - 52} fontSize={13} textAnchor="middle" fill={colours.soft}>
            RO
          </SvgText>
        </>
      ) : null}
      {Array.from({ length: count }, (_, i) => (
        <G
          key={i}
          transform={`translate(${left + scale * (membrane + i * (shape.width + 6))} ${TALLEST - scale * height}) scale(${scale})`}
        >
          <Rect
            x={shape.middle - shape.body}
            y={top}
            width={2 * shape.body}
            height={shape.floor - top}
            fill={colours.ice}
          />
          <Path d={shape.head} fill={colours.ink} />
          <Path d={shape.wall} fill="none" stroke={colours.ink} strokeWidth={2} />
        </G>
      ))}
      <Line
        x1={8}
        x2={8 + year}
        y1={TALLEST + YEAR.top + YEAR.height}
        y2={TALLEST + YEAR.top + YEAR.height}
        stroke={colours.soft}
        strokeWidth={1.4}
      />
      {Array.from({ length: ticks }, (_, i) => {
        const x = 8 + (year * (i + 0.5)) / ticks;
        return (
          <Line
            key={i}
            x1={x}
            x2={x}
            y1={TALLEST + YEAR.top}
            y2={TALLEST + YEAR.top + YEAR.height}
            stroke={colours.ink}
            strokeWidth={ticks > 30 ? 1 : 2}
          />
        );
      })}
      <SvgText x={width / 2} y={TALLEST + 20} fontSize={15} fontWeight="700" textAnchor="middle" fill={colours.ink}>
        {`${text} ${unit}`}
      </SvgText>
      <SvgText x={width / 2} y={TALLEST + FOOT} fontSize={13} textAnchor="middle" fill={colours.soft}>
        {refills < 1 ? "under 1" : threeDigits(refills)}
      </SvgText>
    </G>
  );
}

/** The best one with each vessel, alone and behind RO: what differs to the eye. */
function unlike(options: readonly RankedOption[]): readonly RankedOption[] {
  const seen = new Set<string>();
  return options.filter(({ spec }) => {
    const look = `${threeDigits(spec.vessel.grossVolume)} ${spec.train} ${hasMembrane(spec.before)}`;
    return seen.has(look) ? false : seen.add(look);
  });
}

const inWords = ({ name, refillsPerYear, spec }: RankedOption) =>
  `${name}: ${Math.round(refillsPerYear) < 1 ? "under one refill" : `${Math.round(refillsPerYear)} refills`} a year, ${filledAtOnce(spec) === 1 ? "one vessel" : "two vessels"} at once`;

/** Options that look unlike on one wall, the cheapest first: how large they are, and how often each is to be filled. */
export function OptionWall({ options, units }: { readonly options: readonly RankedOption[]; readonly units: Units }) {
  const colours = usePalette();
  const hung = unlike(options).slice(0, MOST);
  if (hung.length < 2) return null;
  const largest = Math.max(...hung.map(({ spec }) => spec.vessel.grossVolume));
  return (
    <View gap="$1" testID="option-wall">
      <Heading>On one wall, with a year’s refills</Heading>
      <Measured>
        {(width) => (
          <Svg width={width} height={TALLEST + FOOT + 8} role="img" aria-label={hung.map(inWords).join("; ")}>
            {hung.map((option, i) => (
              <G key={option.name} transform={`translate(${(i * width) / hung.length} 0)`}>
                <OneOption
                  option={option}
                  largest={largest}
                  width={width / hung.length}
                  colours={colours}
                  units={units}
                />
              </G>
            ))}
            <Line x1={0} x2={width} y1={TALLEST} y2={TALLEST} stroke={colours.ink} strokeWidth={3} />
          </Svg>
        )}
      </Measured>
      <Small>Each tick is a refill of a year; from the left the one that stands first.</Small>
    </View>
  );
}
