import { FLOW_LOST, FLOW_WATCH, type MembranePoint, type PassageRead } from "@winter-bead/core";
import { scaleLinear, scaleTime } from "d3-scale";
import { line } from "d3-shape";
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { TimeAxis, UprightAxis } from "../../ui/axes";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";

const PAD = { left: 44, right: 12, top: 40, bottom: 24 };
const PANEL = 164;

interface PanelProps {
  readonly points: readonly { readonly at: number; readonly value: number; readonly clean: boolean }[];
  readonly name: string;
  readonly marks: readonly { readonly value: number; readonly words: string }[];
  readonly width: number;
  readonly y0: number;
  readonly domain: readonly [number, number];
}

function Panel({ points, name, marks, width, y0, domain }: PanelProps) {
  const colours = usePalette();
  const times = points.map(({ at }) => at);
  const x = scaleTime()
    .domain([Math.min(...times), Math.max(...times, Math.min(...times) + 1)])
    .range([PAD.left + 6, width - PAD.right - 6]);
  const values = points.map(({ value }) => value);
  const y = scaleLinear()
    .domain([Math.min(domain[0], ...values), Math.max(domain[1], ...values)])
    .range([y0 + PANEL - PAD.bottom, y0 + PAD.top]);
  const path = line<PanelProps["points"][number]>()
    .x(({ at }) => x(at))
    .y(({ value }) => y(value))([...points]);
  return (
    <G>
      <UprightAxis name={name} y={y} x={PAD.left - 6} top={y0 + 18} />
      {marks.map(({ value, words }, i) => (
        <G key={value}>
          <Line
            x1={PAD.left}
            x2={width - PAD.right}
            y1={y(value)}
            y2={y(value)}
            stroke={colours.soft}
            strokeDasharray="3 4"
          />
          <SvgText x={PAD.left + 8 + 70 * i} y={y(value) - 4} fontSize={13} fill={colours.soft}>
            {words}
          </SvgText>
        </G>
      ))}
      <Path d={path ?? ""} fill="none" stroke={colours.ink} strokeWidth={2} />
      {points.map(({ at, value, clean }) =>
        clean ? (
          <Rect
            key={at}
            x={x(at) - 5}
            y={y(value) - 5}
            width={10}
            height={10}
            fill={colours.ink}
            stroke={colours.ink}
          />
        ) : (
          <Circle
            key={at}
            cx={x(at)}
            cy={y(value)}
            r={4.5}
            fill={colours.card}
            stroke={colours.ink}
            strokeWidth={1.8}
          />
        ),
      )}
      <Line
        x1={PAD.left}
        x2={width - PAD.right}
        y1={y0 + PANEL - PAD.bottom}
        y2={y0 + PANEL - PAD.bottom}
        stroke={colours.ink}
      />
      <TimeAxis x={x} y={y0 + PANEL - 7} width={width} />
    </G>
  );
}

/** Normalized flow and rejection over time; a filled square is a clean baseline. */
export function MembraneChart({
  points,
  passages,
  label,
}: {
  readonly points: readonly MembranePoint[];
  /** Every look at what it lets through: of checks, and of the log. */
  readonly passages: readonly PassageRead[];
  readonly label: string;
}) {
  const flow = points
    .filter(({ state }) => state.flowShare !== undefined)
    .map(({ at, state, check }) => ({ at, value: 100 * state.flowShare!, clean: check.clean }));
  const rejection = passages.map(({ at, passage, isClean }) => ({ at, value: 100 * (1 - passage), clean: isClean }));
  return (
    <Measured>
      {(width) => (
        <Svg
          width={width}
          height={(flow.length > 1 ? 2 : 1) * PANEL}
          role="img"
          aria-label={label}
          testID="membrane-chart"
        >
          {flow.length > 1 ? (
            <Panel
              points={flow}
              name="Flow against the clean one, %"
              marks={[
                { value: 100 * FLOW_WATCH, words: "watch" },
                { value: 100 * FLOW_LOST, words: "clean or replace" },
              ]}
              width={width}
              y0={0}
              domain={[80, 102]}
            />
          ) : null}
          <Panel
            points={rejection}
            name="Rejection, %"
            marks={[]}
            width={width}
            y0={flow.length > 1 ? PANEL : 0}
            domain={[92, 100]}
          />
        </Svg>
      )}
    </Measured>
  );
}
