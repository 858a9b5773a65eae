import { type ColumnMarks, type Reading } from "@winter-bead/core";
import { scaleLinear, type ScaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { memo } from "react";
import Svg, { G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { litres as litresWords, scaleUnit, threeDigits, toShown, unitOf, type Units } from "../../ui/format";
import { UprightAxis } from "../../ui/axes";
import { usePalette } from "../../ui/palette";
import type { LabRun } from "./lab-run";
import { usePosition, type Player } from "./player";

const PAD = { left: 42, right: 30, top: 34, bottom: 8 };
const PANEL = 144;
const AXIS = 38;
/** How far above its mark a panel reaches: what lies beyond is cut, since the limit is what matters. */
const ABOVE_MARK = 2.6;
const DASHES = [undefined, "9 4", "2 3", "12 3 2 3"] as const;
export const LETTERS = ["A", "B", "C", "D"] as const;

interface PanelSpec {
  readonly name: string;
  readonly values: (run: LabRun) => Float64Array;
  readonly mark: number | undefined;
  readonly markWords: string;
}

export function panelsOf(runs: readonly LabRun[], limit: Reading, marks: ColumnMarks): PanelSpec[] {
  const has = (values: (run: LabRun) => Float64Array) => runs.some((run) => values(run).some((value) => value > 1e-4));
  const unit = scaleUnit(limit.scale);
  const all: PanelSpec[] = [
    { name: `Out, ${unit}`, values: (run) => run.ppm, mark: limit.value, markWords: `limit ${limit.value}` },
    {
      name: "Silica, mg/L as SiO2",
      values: (run) => run.silica,
      mark: marks.silica,
      markWords: `mark ${marks.silica ?? ""}`,
    },
    {
      name: "Ammonia, mg/L as NH4",
      values: (run) => run.ammonia,
      mark: marks.ammonia,
      markWords: `mark ${marks.ammonia ?? ""}`,
    },
  ];
  return all.filter((panel, i) => i === 0 || has(panel.values));
}

interface PanelProps {
  readonly spec: PanelSpec;
  readonly runs: readonly LabRun[];
  readonly x: ScaleLinear<number, number>;
  readonly y0: number;
  readonly width: number;
}

function Panel({ spec, runs, x, y0, width }: PanelProps) {
  const colours = usePalette();
  const { name, values, mark, markWords } = spec;
  const highest = Math.max(...runs.map((run) => values(run).reduce((most, value) => Math.max(most, value), 0)), 1e-6);
  const top = mark === undefined ? highest * 1.08 : Math.min(highest * 1.08, ABOVE_MARK * mark) || 1;
  const y = scaleLinear()
    .domain([0, Math.max(top, (mark ?? 0) * 1.15)])
    .range([y0 + PANEL - PAD.bottom, y0 + PAD.top])
    .clamp(true);
  return (
    <G>
      <UprightAxis name={name} y={y} x={PAD.left - 6} top={y0 + 18} />
      {mark === undefined ? null : (
        <G>
          <Line
            x1={PAD.left}
            x2={width - PAD.right}
            y1={y(mark)}
            y2={y(mark)}
            stroke={colours.rowan}
            strokeWidth={1.4}
          />
          <SvgText x={PAD.left + 4} y={y(mark) - 4} fontSize={13} fill={colours.soft}>
            {markWords}
          </SvgText>
        </G>
      )}
      {runs.map((run, i) => {
        const points = values(run);
        const visible = Array.from(run.litres, (at, row) => ({ at, value: points[row]! })).filter(
          ({ at }) => at <= x.domain()[1]! * 1.0001,
        );
        const path = line<{ at: number; value: number }>()
          .x(({ at }) => x(at))
          .y(({ value }) => y(value))(visible);
        const crossing = visible.find(({ value }) => value >= 0.5 * y.domain()[1]!);
        return (
          <G key={run.variant}>
            <Path
              d={path ?? ""}
              fill="none"
              stroke={colours.ink}
              strokeWidth={2}
              strokeDasharray={DASHES[i]}
              testID={`line-${LETTERS[i]}`}
            />
            {runs.length > 1 && crossing ? (
              <SvgText
                x={x(crossing.at) + 5}
                y={y(0.5 * y.domain()[1]!) - 2 - 13 * (i % 2)}
                fontSize={14}
                fontWeight="700"
                fill={colours.ink}
              >
                {LETTERS[i]}
              </SvgText>
            ) : null}
          </G>
        );
      })}
      <Line
        x1={PAD.left}
        x2={width - PAD.right}
        y1={y0 + PANEL - PAD.bottom}
        y2={y0 + PANEL - PAD.bottom}
        stroke={colours.ink}
      />
    </G>
  );
}

/** The litre the film stands at; the only part of the chart that moves. */
function Cursor({
  player,
  until,
  x,
  height,
}: {
  readonly player: Player;
  readonly until: number;
  readonly x: ScaleLinear<number, number>;
  readonly height: number;
}) {
  const colours = usePalette();
  const at = x(usePosition(player) * until);
  return <Line x1={at} x2={at} y1={PAD.top} y2={height} stroke={colours.ink} strokeWidth={1.5} strokeDasharray="1 3" />;
}

export interface ProductChartProps {
  readonly runs: readonly LabRun[];
  readonly focus: LabRun;
  readonly limit: Reading;
  readonly marks: ColumnMarks;
  readonly until: number;
  readonly player: Player;
  readonly width: number;
  readonly units: Units;
  readonly label: string;
}

/** First litre at which something passes its mark, of a run with a silent window. */
const windowOf = ({ ends }: LabRun) =>
  ends.litresToLimit === undefined || !ends.silentWindow
    ? undefined
    : { from: ends.litresToLimit - ends.silentWindow, to: ends.litresToLimit };

const litresScale = (until: number, width: number) =>
  scaleLinear()
    .domain([0, until])
    .range([PAD.left, width - PAD.right]);

/** All that does not move with the film; drawn once for a set of runs. */
const Still = memo(function Still({
  runs,
  focus,
  limit,
  marks,
  until,
  width,
  units,
}: Omit<ProductChartProps, "player" | "label">) {
  const colours = usePalette();
  const x = litresScale(until, width);
  const panels = panelsOf(runs, limit, marks);
  const bottom = panels.length * PANEL;
  const silent = windowOf(focus);
  const shownScale = scaleLinear()
    .domain([0, toShown("volume", x.domain()[1]!, units)])
    .range(x.range());
  return (
    <G>
      {silent ? (
        <G testID="silent-window">
          <Rect
            x={x(silent.from)}
            y={PAD.top - 4}
            width={Math.max(1, x(silent.to) - x(silent.from))}
            height={bottom - PAD.top}
            fill={colours.ice}
          />
          <SvgText
            x={Math.min(x(silent.from), width - PAD.right - 130) + 2}
            y={bottom + 33}
            fontSize={13}
            fill={colours.ink}
          >
            {`silent for ${litresWords(silent.to - silent.from, units)}`}
          </SvgText>
        </G>
      ) : null}
      {panels.map((spec, i) => (
        <Panel key={spec.name} spec={spec} runs={runs} x={x} y0={i * PANEL} width={width} />
      ))}
      {shownScale.ticks(width < 420 ? 4 : 7).map((tick) => (
        <SvgText key={tick} x={shownScale(tick)} y={bottom + 14} fontSize={13} textAnchor="middle" fill={colours.soft}>
          {threeDigits(tick)}
        </SvgText>
      ))}
      <SvgText x={0} y={bottom + 33} fontSize={13} fill={colours.soft}>
        {unitOf("volume", units)}
      </SvgText>
    </G>
  );
});

/** Product against litres: ppm with the limit, silica and ammonia with their marks, the silent window shaded. */
export function ProductChart({ player, label, ...still }: ProductChartProps) {
  const { runs, limit, marks, until, width } = still;
  const height = panelsOf(runs, limit, marks).length * PANEL;
  return (
    <Svg width={width} height={height + AXIS} role="img" aria-label={label} testID="lab-chart">
      <Still {...still} />
      <Cursor player={player} until={until} x={litresScale(until, width)} height={height - PAD.bottom} />
    </Svg>
  );
}
