import { onScale, type Scale, type TapRange, type TapReading } from "@winter-bead/core";
import { scaleLinear, scaleTime } from "d3-scale";
import { area, line } from "d3-shape";
import Svg, { Circle, Line, Path, Rect } from "react-native-svg";
import { scaleUnit } from "../../ui/format";
import { TimeAxis, UprightAxis } from "../../ui/axes";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";

const HEIGHT = 232;
const PAD = { left: 40, right: 10, top: 36, bottom: 30 };
const DAY = 86_400_000;
const LEAST_SPAN = 14 * DAY;

interface MonthPoint {
  readonly at: number;
  readonly low: number;
  readonly typical: number;
  readonly high: number;
}

/** The season's months laid over the shown time, in days of 10. */
function seasonPoints(range: TapRange, from: number, to: number): MonthPoint[] {
  const months = range.season?.months;
  if (!months) return [];
  const points: MonthPoint[] = [];
  for (let at = from; at <= to; at += 5 * DAY) {
    const day = new Date(at);
    const position = day.getUTCMonth() + (day.getUTCDate() - 15) / 30.4;
    const before = months[(Math.floor(position) + 12) % 12]!;
    const after = months[(Math.floor(position) + 13) % 12]!;
    const share = position - Math.floor(position);
    const between = (key: "low" | "typical" | "high") => before[key] + (after[key] - before[key]) * share;
    points.push({ at, low: between("low"), typical: between("typical"), high: between("high") });
  }
  return points;
}

export interface RangeChartProps {
  readonly readings: readonly TapReading[];
  readonly range: TapRange;
  readonly scale: Scale;
  readonly label: string;
}

/** A tap's readings over time, with the range they make and, after a year, its season. */
export function RangeChart(props: RangeChartProps) {
  return <Measured>{(width) => <Chart {...props} width={width} />}</Measured>;
}

function Chart({ readings, range, scale, label, width }: RangeChartProps & { readonly width: number }) {
  const colours = usePalette();
  const shown = (ec25: number) => onScale(ec25, scale);
  const last = readings[readings.length - 1]!.at;
  const from = Math.min(readings[0]!.at, last - LEAST_SPAN);
  const values = [range.low, range.high, ...readings.map(({ ec25 }) => ec25)].map(shown);
  const room = 0.15 * (Math.max(...values) - Math.min(...values));
  const x = scaleTime()
    .domain([from, last])
    .range([PAD.left + 6, width - PAD.right - 6]);
  const y = scaleLinear()
    .domain([Math.max(0, Math.min(...values) - room), Math.max(...values) + room])
    .nice(5)
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const season = seasonPoints(range, from, last);
  const band = area<MonthPoint>()
    .x(({ at }) => x(at))
    .y0(({ low }) => y(shown(low)))
    .y1(({ high }) => y(shown(high)))(season);
  const curve = line<MonthPoint>()
    .x(({ at }) => x(at))
    .y(({ typical }) => y(shown(typical)))(season);
  return (
    <Svg width={width} height={HEIGHT} role="img" aria-label={label} testID="range-chart">
      {season.length > 1 ? (
        <Path d={band ?? ""} fill={colours.ice} />
      ) : (
        <Rect
          x={PAD.left}
          y={y(shown(range.high))}
          width={width - PAD.left - PAD.right}
          height={y(shown(range.low)) - y(shown(range.high))}
          fill={colours.ice}
        />
      )}
      {season.length > 1 ? (
        <Path d={curve ?? ""} stroke={colours.ink} strokeWidth={2} fill="none" testID="season-curve" />
      ) : (
        <Line
          x1={PAD.left}
          x2={width - PAD.right}
          y1={y(shown(range.typical))}
          y2={y(shown(range.typical))}
          stroke={colours.ink}
          strokeWidth={2}
        />
      )}
      <UprightAxis name={scaleUnit(scale)} y={y} x={PAD.left - 6} top={14} count={4} />
      {readings.map(({ at, ec25 }) => (
        <Circle
          key={`${at} ${ec25}`}
          cx={x(at)}
          cy={y(shown(ec25))}
          r={4}
          fill={colours.card}
          stroke={colours.ink}
          strokeWidth={1.6}
        />
      ))}
      <Line
        x1={PAD.left}
        x2={width - PAD.right}
        y1={HEIGHT - PAD.bottom}
        y2={HEIGHT - PAD.bottom}
        stroke={colours.ink}
        strokeWidth={1.4}
      />
      <TimeAxis x={x} y={HEIGHT - PAD.bottom + 18} width={width} />
    </Svg>
  );
}
