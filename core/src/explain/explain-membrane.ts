import {
  concentrated,
  membrane,
  netDrivingPressure,
  OSMOTIC_PER_CONDUCTIVITY,
  temperatureCorrection,
  type MembraneInput,
} from "../membrane/membrane";
import { membraneState, type MembraneFigures } from "../membrane/trend";
import { succeed, type Result } from "../result";
import type { Explanation } from "./explanation";

const SOURCE = "ASTM D4516; van 't Hoff 1887 for the osmotic pressure";
const SCHOOL = "solution and diffusion through the membrane";
const read = "this check";

export interface MembraneExplanations {
  readonly rejection: Explanation;
  readonly recovery: Explanation;
  readonly waste: Explanation;
  readonly flow: Explanation;
}

function netPressure(figures: MembraneFigures, recovery: number, net: number): Explanation {
  return {
    name: "Net driving pressure",
    value: net,
    unit: "kPa",
    formula: "p − b − o × c",
    words: "the pressure before the membrane, less that behind it and the water's own osmotic pressure",
    inputs: [
      { symbol: "p", name: "Pressure before the membrane", value: figures.pressure, unit: "kPa", from: read },
      { symbol: "b", name: "Pressure behind it", value: figures.permeatePressure ?? 0, unit: "kPa", from: read },
      {
        symbol: "o",
        name: "Osmotic pressure per conductivity",
        value: OSMOTIC_PER_CONDUCTIVITY,
        unit: "kPa per µS/cm",
        from: "planning assumption",
        assumption: true,
      },
      {
        symbol: "c",
        name: "Mean conductivity along the feed side",
        value: concentrated(figures.feedEc25, recovery),
        unit: "µS/cm",
        from: "feed and recovery",
      },
    ],
    school: SCHOOL,
    source: SOURCE,
  };
}

/** How rejection, recovery, waste and the flow against the clean one came about. */
export function explainMembrane(figures: MembraneFigures, clean?: MembraneFigures): Result<MembraneExplanations> {
  const state = membraneState(figures, clean);
  if (!state.ok) return state;
  const { rejection, recovery, wasteRatio, netPressure: net, normalizedFlow, flowShare } = state.value;
  const product = { symbol: "q", name: "Product's flow", value: figures.productFlow, unit: "L/min", from: read };
  const waste = { symbol: "w", name: "Waste's flow", value: figures.wasteFlow, unit: "L/min", from: read };
  const common = { school: SCHOOL, source: SOURCE };
  const baseline = flowShare === undefined ? normalizedFlow : normalizedFlow / flowShare;
  return succeed({
    rejection: {
      ...common,
      name: "Rejection",
      value: 100 * rejection,
      unit: "%",
      formula: "100 × (1 − p / f)",
      words: "the share of the feed's conductivity that the membrane holds back",
      inputs: [
        { symbol: "p", name: "Product", value: figures.productEc25, unit: "µS/cm", from: read },
        { symbol: "f", name: "Feed", value: figures.feedEc25, unit: "µS/cm", from: read },
      ],
    },
    recovery: {
      ...common,
      name: "Recovery",
      value: 100 * recovery,
      unit: "%",
      formula: "100 × q / (q + w)",
      words: "the share of the feed that becomes product",
      inputs: [product, waste],
    },
    waste: {
      ...common,
      name: "Waste per litre made",
      value: wasteRatio,
      unit: "L/L",
      formula: "w / q",
      words: "litres that go down the drain for one litre of product",
      inputs: [product, waste],
    },
    flow: {
      ...common,
      name: "Flow against the clean one",
      value: (100 * normalizedFlow) / baseline,
      unit: "%",
      formula: "100 × q / (t × n) / b",
      words: "the flow freed of temperature and pressure, against the same when the membrane was clean",
      inputs: [
        product,
        {
          symbol: "t",
          name: "Temperature correction",
          value: temperatureCorrection(figures.temperature),
          unit: "",
          from: `water at ${figures.temperature} °C`,
        },
        {
          symbol: "n",
          name: "Net driving pressure",
          value: net,
          unit: "kPa",
          from: "pressures and feed",
          because: netPressure(figures, recovery, net),
        },
        {
          symbol: "b",
          name: "The same when clean",
          value: baseline,
          unit: "L/min per kPa",
          from: "the clean baseline",
        },
      ],
    },
  });
}

/** How the flow and the product that a membrane should make came about. */
export function explainRated(
  input: MembraneInput,
): Result<{ readonly flow: Explanation; readonly product: Explanation }> {
  const answer = membrane(input);
  if (!answer.ok) return answer;
  const { feed, recovery, rated } = input;
  const ratedNet = netDrivingPressure(rated.pressure, 0, rated.ec25, rated.recovery);
  if (!ratedNet.ok) return ratedNet;
  const entered = "what you entered";
  const maker = "its maker's test";
  const ratio = answer.value.netPressure / ratedNet.value;
  const warmth = temperatureCorrection(feed.temperature) / temperatureCorrection(rated.temperature ?? 25);
  const passage = ((1 - rated.rejection) * rated.ec25) / concentrated(rated.ec25, rated.recovery);
  const common = { school: SCHOOL, source: "Baker 2012, Membrane Technology and Applications" };
  const driving = {
    symbol: "r",
    name: "Net driving pressure against that of the test",
    value: ratio,
    unit: "",
    from: "pressures, feed and recovery",
  };
  return succeed({
    flow: {
      ...common,
      name: "Flow it should make",
      value: answer.value.flow,
      unit: "L/min",
      formula: "q × r × t",
      words: "the rated flow, by the pressure that drives it and by the water's temperature",
      inputs: [
        { symbol: "q", name: "Rated flow", value: rated.flow, unit: "L/min", from: maker },
        driving,
        {
          symbol: "t",
          name: "Temperature correction",
          value: warmth,
          unit: "",
          from: `water at ${feed.temperature} °C against ${rated.temperature ?? 25} °C`,
        },
      ],
    },
    product: {
      ...common,
      name: "Product it should make",
      value: answer.value.ec25,
      unit: "µS/cm",
      formula: "min(c × s / (s + (1 − s) × r), f)",
      words: "the salt that passes is set by the feed beside the membrane; more pressure sends more water with it",
      inputs: [
        {
          symbol: "c",
          name: "Mean conductivity along the feed side",
          value: concentrated(feed.ec25, recovery),
          unit: "µS/cm",
          from: "feed and recovery",
        },
        { symbol: "s", name: "Salt passage in the test", value: passage, unit: "", from: maker },
        driving,
        { symbol: "f", name: "Feed", value: feed.ec25, unit: "µS/cm", from: entered },
      ],
    },
  });
}
