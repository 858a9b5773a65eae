import {
  marksOn,
  onScale,
  trendPoints,
  type ExpectedOutput,
  type Marks,
  type OutputReading,
  type Scale,
  type Standing,
} from "@winter-bead/core";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import Svg, { Circle, G, Line, Path, Text as SvgText } from "react-native-svg";
import { useSettings } from "../../data/settings";
import { scaleUnit, threeDigits, toShown, unitOf } from "../../ui/format";
import { usePalette } from "../../ui/palette";

export interface FrontChartProps {
  readonly outputs: readonly OutputReading[];
  readonly marks: Marks;
  /** Only the charge in use has a predicted front. */
  readonly standing: Standing | undefined;
  readonly front: readonly ExpectedOutput[] | undefined;
  readonly width: number;
  readonly label: string;
}

const HEIGHT = 250;
const PAD = { left: 34, right: 24, top: 14, bottom: 40 };
const HEADROOM = 1.25;

const LEVELS = { watch: "watch", limit: "limit", hard: "stop" } as const;

/** The scale that a chart of these readings speaks in: that of the meter in hand, as their verdict does. */
export const chartScale = (outputs: readonly OutputReading[], marks: Marks): Scale =>
  outputs[outputs.length - 1]?.scale ?? marks.scale;

/** The three marks a reading is held against, each with its figure. */
function Levels({
  marks,
  scale,
  y,
  width,
}: {
  readonly marks: FrontChartProps["marks"];
  readonly scale: Scale;
  readonly y: (value: number) => number;
  readonly width: number;
}) {
  const colours = usePalette();
  const figures = marksOn(scale, marks);
  return (["watch", "limit", "hard"] as const).map((name) => (
    <G key={name}>
      <Line
        x1={PAD.left}
        x2={width - PAD.right}
        y1={y(figures[name])}
        y2={y(figures[name])}
        stroke={name === "hard" ? colours.rowan : colours.soft}
        strokeWidth={1.3}
        strokeDasharray={name === "hard" ? undefined : "3 4"}
      />
      <SvgText
        x={PAD.left + 4}
        y={y(figures[name]) - 4}
        fontSize={13}
        fill={colours.soft}
      >{`${LEVELS[name]} ${threeDigits(figures[name])}`}</SvgText>
    </G>
  ));
}

/** Output readings against litres, with the marks and the front as the belief has it. */
export function FrontChart({ outputs, marks, standing, front = [], width, label }: FrontChartProps) {
  const colours = usePalette();
  const { units } = useSettings();
  const scale = chartScale(outputs, marks);
  const { hard } = marksOn(scale, marks);
  const ppm = (reading: OutputReading) => onScale(reading.ec25, scale);
  const treated = outputs[outputs.length - 1]?.litres ?? 0;
  const ownTrend = standing?.rise ? trendPoints(standing.rise) : [];
  const trendEnd = ownTrend[ownTrend.length - 1]?.litres ?? 0;
  const until = Math.max(treated, trendEnd, standing?.used.litres ?? 0, front[front.length - 1]?.litres ?? 0, 1);
  const highest = Math.max(hard * HEADROOM, ...outputs.map((reading) => Math.min(ppm(reading), 2.2 * hard)));
  const x = scaleLinear()
    .domain([0, toShown("volume", until, units)])
    .range([PAD.left, width - PAD.right]);
  const y = scaleLinear()
    .domain([0, highest])
    .range([HEIGHT - PAD.bottom, PAD.top])
    .clamp(true);
  const at = (litres: number) => x(toShown("volume", litres, units));
  const on = (ec25: number) => y(onScale(ec25, scale));
  const likely = line<ExpectedOutput>()
    .x((point) => at(point.litres))
    .y((point) => on(point.likely))(front);
  const band = area<ExpectedOutput>()
    .x((point) => at(point.litres))
    .y0((point) => on(point.late))
    .y1((point) => on(point.early))(front);
  const trend = line<{ readonly litres: number; readonly ec25: number }>()
    .x((point) => at(point.litres))
    .y((point) => on(point.ec25))(ownTrend);
  return (
    <Svg width={width} height={HEIGHT} role="img" aria-label={label} testID="front-chart">
      {band ? <Path d={band} fill={colours.ice} testID="front-band" /> : null}
      <Levels marks={marks} scale={scale} y={y} width={width} />
      {likely ? <Path d={likely} fill="none" stroke={colours.ink} strokeWidth={2.2} testID="front-line" /> : null}
      {trend ? (
        <Path
          d={trend}
          fill="none"
          stroke={colours.rowan}
          strokeWidth={2.2}
          strokeDasharray="7 5"
          testID="front-trend"
        />
      ) : null}
      {outputs.map((reading) => (
        <Circle
          key={`${reading.visitId} ${reading.litres}`}
          cx={at(reading.litres)}
          cy={y(ppm(reading))}
          r={5}
          fill={colours.card}
          stroke={colours.ink}
          strokeWidth={2}
        />
      ))}
      <Line x1={PAD.left} x2={width - PAD.right} y1={y(0)} y2={y(0)} stroke={colours.ink} strokeWidth={1.6} />
      {x.ticks(width < 420 ? 4 : 6).map((tick) => (
        <SvgText
          key={tick}
          x={x(tick)}
          y={HEIGHT - PAD.bottom + 18}
          fontSize={13}
          fill={colours.soft}
          textAnchor="middle"
        >
          {threeDigits(tick)}
        </SvgText>
      ))}
      {y.ticks(4).map((tick) => (
        <SvgText
          key={tick}
          x={PAD.left - 6}
          y={y(tick) + 4}
          fontSize={13}
          fill={colours.soft}
          textAnchor="end"
          testID="output-tick"
        >
          {threeDigits(tick)}
        </SvgText>
      ))}
      <SvgText
        x={width - PAD.right}
        y={HEIGHT - 4}
        fontSize={13}
        fill={colours.soft}
        textAnchor="end"
      >{`${unitOf("volume", units)} treated`}</SvgText>
      <SvgText x={2} y={HEIGHT - 4} fontSize={13} fill={colours.soft}>{`out, ${scaleUnit(scale)}`}</SvgText>
    </Svg>
  );
}
