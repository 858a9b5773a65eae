import type { ScaleLinear, ScaleTime } from "d3-scale";
import { G, Text as SvgText } from "react-native-svg";
import { dayMonth, monthShortYear } from "./dates";
import { threeDigits } from "./format";
import { usePalette } from "./palette";

/** Name and scale of a chart's upright axis. */
export function UprightAxis({
  name,
  y,
  x,
  top,
  count = 3,
}: {
  readonly name: string;
  readonly y: ScaleLinear<number, number>;
  /** Where the numbers end. */
  readonly x: number;
  /** Where the name stands. */
  readonly top: number;
  readonly count?: number;
}) {
  const colours = usePalette();
  return (
    <G>
      <SvgText x={0} y={top} fontSize={14} fontWeight="700" fill={colours.ink}>
        {name}
      </SvgText>
      {y.ticks(count).map((tick) => (
        <SvgText key={tick} x={x} y={y(tick) + 4} fontSize={13} textAnchor="end" fill={colours.soft}>
          {threeDigits(tick)}
        </SvgText>
      ))}
    </G>
  );
}

const LONG_SPAN = 200 * 86_400_000;

/** Days or months below a chart, as many as there is room for. */
export function TimeAxis({
  x,
  y,
  width,
}: {
  readonly x: ScaleTime<number, number>;
  readonly y: number;
  readonly width: number;
}) {
  const colours = usePalette();
  const [from, to] = x.domain() as [Date, Date];
  const words = to.getTime() - from.getTime() > LONG_SPAN ? monthShortYear : dayMonth;
  return (
    <G>
      {x.ticks(width < 420 ? 3 : 6).map((tick) => (
        <SvgText key={tick.getTime()} x={x(tick)} y={y} fontSize={13} textAnchor="middle" fill={colours.soft}>
          {words(tick)}
        </SvgText>
      ))}
    </G>
  );
}
