import { onScale, type CostPoint, type Scale, type ThreeOf } from "@winter-bead/core";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { UprightAxis } from "../../ui/axes";
import { scaleUnit, threeDigits } from "../../ui/format";
import { Measured } from "../../ui/Measured";
import { usePalette } from "../../ui/palette";

const HEIGHT = 250;
const PAD = { left: 52, right: 12, top: 26, bottom: 36 };

export interface PaysChartProps {
  readonly curve: readonly CostPoint[];
  /** µS/cm: the tap's own feed, and where the two costs meet. */
  readonly feed: ThreeOf<number>;
  readonly meets: number | undefined;
  readonly scale: Scale;
  readonly currency: string;
  readonly label: string;
}

/** Two yearly costs over the feed, each with its band, the tap's own feed and the place where they meet. */
export const PaysChart = (props: PaysChartProps) => (
  <Measured>{(width) => <Chart {...props} width={width} />}</Measured>
);

/** Scales, bands and lines of the two curves. */
function geometry({ curve, scale }: Pick<PaysChartProps, "curve" | "scale">, width: number) {
  const last = curve[curve.length - 1]!;
  const x = scaleLinear([onScale(curve[0]!.ec25, scale), onScale(last.ec25, scale)], [PAD.left, width - PAD.right]);
  const most = Math.max(
    ...curve.map(({ behind, alone }) => Math.max(behind.high, Math.min(alone.high, 3 * behind.high))),
  );
  const y = scaleLinear([0, most], [HEIGHT - PAD.bottom, PAD.top]).nice();
  const at = (point: CostPoint) => x(onScale(point.ec25, scale));
  const ceiling = (value: number) => Math.max(PAD.top, y(value));
  const band = (side: "alone" | "behind") =>
    area<CostPoint>()
      .x(at)
      .y0((point) => ceiling(point[side].low))
      .y1((point) => ceiling(point[side].high))([...curve])!;
  const middle = (side: "alone" | "behind") =>
    line<CostPoint>()
      .defined((point) => y(point[side].typical) >= PAD.top)
      .x(at)
      .y((point) => y(point[side].typical))([...curve])!;
  return { x, y, at, band, middle, last };
}

type Geometry = ReturnType<typeof geometry>;

/** Where the costs meet, marked down to the axis. */
function Meeting({
  curve,
  meets,
  scale,
  x,
  y,
}: Pick<PaysChartProps, "curve" | "scale"> & Geometry & { readonly meets: number }) {
  const colours = usePalette();
  const met = curve.find(({ ec25 }) => ec25 >= meets);
  if (!met) return null;
  const across = x(onScale(meets, scale));
  return (
    <G>
      <Line
        x1={across}
        x2={across}
        y1={y(met.alone.typical)}
        y2={HEIGHT - PAD.bottom}
        stroke={colours.ink}
        strokeWidth={1}
        strokeDasharray="2 3"
      />
      <Circle cx={across} cy={y(met.alone.typical)} r={5} fill={colours.card} stroke={colours.ink} strokeWidth={2.5} />
    </G>
  );
}

/** A curve's name in the ink of its line. */
const CurveName = ({ x, y, children }: { readonly x: number; readonly y: number; readonly children: string }) => (
  <SvgText x={x} y={y} fontSize={14} fontWeight="700" textAnchor="end" fill={usePalette().ink}>
    {children}
  </SvgText>
);

function Chart({ curve, feed, meets, scale, currency, label, width }: PaysChartProps & { readonly width: number }) {
  const colours = usePalette();
  const drawn = geometry({ curve, scale }, width);
  const { x, y, at, band, middle, last } = drawn;
  const inSight = curve.filter((point) => y(point.alone.typical) >= PAD.top + 14);
  const aloneEnds = inSight[inSight.length - 1] ?? curve[0]!;
  const [from, typical, to] = [feed.low, feed.typical, feed.high].map((ec25) => x(onScale(ec25, scale))) as [
    number,
    number,
    number,
  ];
  const ground = HEIGHT - PAD.bottom;
  return (
    <Svg width={width} height={HEIGHT} role="img" aria-label={label} testID="pays-chart">
      <Rect x={from} width={Math.max(2, to - from)} y={PAD.top} height={ground - PAD.top} fill={colours.ice} />
      <SvgText x={typical} y={ground - 7} fontSize={13} textAnchor="middle" fill={colours.ink}>
        your tap
      </SvgText>
      {(["alone", "behind"] as const).map((side) => (
        <Path key={side} d={band(side)} fill={colours.frost} opacity={0.35} />
      ))}
      <Path d={middle("alone")} stroke={colours.ink} strokeWidth={2.5} fill="none" />
      <Path d={middle("behind")} stroke={colours.ink} strokeWidth={2.5} strokeDasharray="7 5" fill="none" />
      <CurveName x={at(aloneEnds) - 8} y={Math.max(PAD.top + 12, y(aloneEnds.alone.typical))}>
        resin alone
      </CurveName>
      <CurveName x={width - PAD.right} y={y(last.behind.typical) - 8}>
        behind RO
      </CurveName>
      {meets === undefined ? null : <Meeting curve={curve} scale={scale} meets={meets} {...drawn} />}
      <Line x1={PAD.left} x2={width - PAD.right} y1={ground} y2={ground} stroke={colours.ink} />
      <UprightAxis name={`${currency} a year`} y={y} x={PAD.left - 8} top={14} count={4} />
      {x.ticks(width < 420 ? 4 : 7).map((tick) => (
        <SvgText key={tick} x={x(tick)} y={ground + 16} fontSize={13} textAnchor="middle" fill={colours.soft}>
          {threeDigits(tick)}
        </SvgText>
      ))}
      <SvgText x={width - PAD.right} y={HEIGHT - 2} fontSize={13} textAnchor="end" fill={colours.soft}>
        {`feed, ${scaleUnit(scale)}`}
      </SvgText>
    </Svg>
  );
}
