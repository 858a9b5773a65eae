import type { RankedOption } from "@winter-bead/core";
import { scaleLog } from "d3-scale";
import Svg, { Circle, G, Line, Text as SvgText } from "react-native-svg";
import { threeDigits } from "../../ui/format";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";

const HEIGHT = 220;
const PAD = { left: 46, right: 14, top: 26, bottom: 34 };
/** Numbered on the chart, as in the list. */
const NUMBERED = 5;
/** px beside a number. */
const ROOM = 20;

/** The first few that nothing beats, as far apart as their numbers need. */
function numbered(options: readonly RankedOption[], across: (option: RankedOption) => number): RankedOption[] {
  const chosen: RankedOption[] = [];
  for (const option of options.filter(({ dominated }) => !dominated)) {
    const free = chosen.every((other) => Math.abs(across(other) - across(option)) > ROOM);
    if (free && chosen.length < NUMBERED) chosen.push(option);
  }
  return chosen;
}

/** Cost against refills: what another beats in everything is faded, the rest is the choice there is. */
export function TradeOff({
  options,
  currency,
  label,
}: {
  readonly options: readonly RankedOption[];
  readonly currency: string;
  readonly label: string;
}) {
  const colours = usePalette();
  const costs = options.map(({ cost }) => cost.total);
  const refills = options.map(({ refillsPerYear }) => refillsPerYear);
  return (
    <Measured>
      {(width) => {
        const x = scaleLog()
          .domain([Math.min(...refills) * 0.9, Math.max(...refills) * 1.1])
          .range([PAD.left, width - PAD.right]);
        const y = scaleLog()
          .domain([Math.min(...costs) * 0.95, Math.max(...costs) * 1.05])
          .range([HEIGHT - PAD.bottom, PAD.top]);
        const ticks = (from: number, to: number) =>
          [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000].filter(
            (tick) => tick > from && tick < to,
          );
        return (
          <Svg width={width} height={HEIGHT} role="img" aria-label={label} testID="trade-off">
            <SvgText x={0} y={14} fontSize={14} fontWeight="700" fill={colours.ink}>
              {`${currency} a year`}
            </SvgText>
            {ticks(...(y.domain() as [number, number])).map((tick) => (
              <SvgText key={tick} x={PAD.left - 8} y={y(tick) + 4} fontSize={13} textAnchor="end" fill={colours.soft}>
                {threeDigits(tick)}
              </SvgText>
            ))}
            {[...options].reverse().map((option) => (
              <Circle
                key={option.name}
                cx={x(option.refillsPerYear)}
                cy={y(option.cost.total)}
                r={option.dominated ? 3 : 5}
                fill={option.place === 1 ? colours.ink : option.dominated ? colours.frost : colours.card}
                stroke={option.dominated ? colours.frost : colours.ink}
                strokeWidth={2}
              />
            ))}
            {numbered(options, (option) => x(option.refillsPerYear)).map((option) => (
              <SvgText
                key={option.name}
                x={x(option.refillsPerYear) + 4}
                y={y(option.cost.total) - 8}
                fontSize={14}
                fontWeight="700"
                fill={colours.ink}
              >
                {option.place}
              </SvgText>
            ))}
            <Line
              x1={PAD.left}
              x2={width - PAD.right}
              y1={HEIGHT - PAD.bottom}
              y2={HEIGHT - PAD.bottom}
              stroke={colours.ink}
            />
            <G>
              {ticks(...(x.domain() as [number, number])).map((tick) => (
                <SvgText
                  key={tick}
                  x={x(tick)}
                  y={HEIGHT - PAD.bottom + 16}
                  fontSize={13}
                  textAnchor="middle"
                  fill={colours.soft}
                >
                  {threeDigits(tick)}
                </SvgText>
              ))}
              <SvgText x={width - PAD.right} y={HEIGHT - 2} fontSize={13} textAnchor="end" fill={colours.soft}>
                refills a year
              </SvgText>
            </G>
          </Svg>
        );
      }}
    </Measured>
  );
}
