import type { Plan, Tap } from "@winter-bead/core";
import { hasMembrane, optionName } from "@winter-bead/core/src/plan/options";
import { csvOf } from "../../ui/csv";
import type { TDocumentDefinitions, Content } from "pdfmake/interfaces";
import { dayMonthYear } from "../../ui/dates";
import { litres, litresRange, scaleUnit, shown, threeDigits, type Units } from "../../ui/format";
import { vesselShape } from "../refill/vessel-shape";
import { COST_PARTS } from "./cost-parts";
import { itemInWords } from "./work-words";
import { daysRange, money, moneyRange, wholeMoney } from "./money";
import { fetchAgain, NotFetched } from "../../data/fetch-again";

/** What a file of a plan says beside the plan itself. */
export interface PlanContext {
  readonly tap: Tap | undefined;
  readonly version: number;
  readonly units: Units;
}

interface Row {
  readonly what: string;
  readonly value: string;
  readonly unit: string;
}

const plainNumber = (value: number) => String(Number(value.toPrecision(6)));

/** Every figure of a plan, one a line, in litres and the plan's currency. */
function rowsOf(plan: Plan): readonly Row[] {
  const { expected, currency } = plan;
  const three = (what: string, unit: string, range: { low: number; typical: number; high: number }): Row[] =>
    (["low", "typical", "high"] as const).map((end) => ({
      what: `${what}, ${end}`,
      value: plainNumber(range[end]),
      unit,
    }));
  const one = (what: string, value: number, unit: string): Row => ({ what, value: plainNumber(value), unit });
  return [
    ...three("water of a week", "L", expected.week),
    ...three("water of a year", "L", expected.year),
    ...three("water of one refill", "L", expected.litres),
    ...three("days between refills, busiest month", "days", expected.daysBusiest),
    ...three("days between refills, quietest month", "days", expected.daysQuietest),
    one("refills a year", expected.refillsPerYear, "a year"),
    one("resin of one refill", expected.resinLitres, "L"),
    one("flow through one vessel", expected.flow, "L/min"),
    one("contact time", expected.contactSeconds, "s"),
    one("bed volumes an hour", expected.bedVolumesPerHour, "per h"),
    one("pressure lost in the beads", expected.pressureLoss, "kPa"),
    one("weight of one vessel, wet", expected.weight, "kg"),
    one("waste water of a year", expected.wastePerYear, "L"),
    one("minutes of a year", expected.minutesPerYear, "min"),
    one("to buy", expected.purchase, currency),
    ...COST_PARTS.map(([part, name]) => one(`${name}, a year`, expected.cost[part], currency)),
    one("a year, in all", expected.cost.total, currency),
    one("a year at least", expected.costRange.low, currency),
    one("a year at most", expected.costRange.high, currency),
    one("for 1000 L", expected.per1000Litres, currency),
    ...(expected.perJob === undefined ? [] : [one("a job", expected.perJob, currency)]),
  ];
}

/** A plan as CSV: what was chosen, then one figure a line. */
export function planCsv(plan: Plan, { tap, version }: PlanContext): string {
  const fillFlow = plan.work.before?.fillFlow;
  const membranes = hasMembrane(plan.option.before) ? [1 + Number(plan.work.before?.secondMembrane === true)] : [];
  const head: Row[] = [
    { what: "plan", value: plan.name, unit: "" },
    { what: "version", value: String(version), unit: "" },
    { what: "kept", value: plan.keptAt, unit: "" },
    { what: "tap", value: tap?.name ?? "", unit: "" },
    { what: "option", value: optionName(plan.option), unit: "" },
    { what: "limit", value: String(plan.work.limit.value), unit: scaleUnit(plan.work.limit.scale) },
    { what: "peak flow", value: plainNumber(plan.work.peakFlow), unit: "L/min" },
    ...membranes.map((count) => ({ what: "membranes", value: String(count), unit: "" })),
    ...(fillFlow === undefined ? [] : [{ what: "tank filled ahead at", value: plainNumber(fillFlow), unit: "L/min" }]),
  ];
  return csvOf([...head, ...rowsOf(plan)]);
}

/** A plan as JSON: the record as it is kept, so that `work` can be sent to `compute/size` again. */
export const planJson = (plan: Plan, { tap, version }: PlanContext): string =>
  `${JSON.stringify({ ...plan, version, tapName: tap?.name }, undefined, 2)}\n`;

const INK = "#102430";
const SOFT = "#3d5361";
const LINE = "#c4d2d8";

const USE_WORDS = { glass: "glass", paint: "paint", aquarium: "an aquarium" } as const;

/** How often it is filled: once where the busiest and the quietest month read the same. */
function refillLines({ expected }: Plan): readonly (readonly [string, string])[] {
  const [busiest, quietest] = [expected.daysBusiest, expected.daysQuietest].map(({ low, high }) =>
    daysRange(low, high),
  );
  return busiest === quietest
    ? [["Refill every", busiest!]]
    : [
        ["Refill every, busiest month", busiest!],
        ["Refill every, quietest month", quietest!],
      ];
}

/** A line of figures for the customer's page. */
function figures(plan: Plan, units: Units): readonly (readonly [string, string])[] {
  const { expected, currency } = plan;
  const weight = shown("weight", expected.weight, units);
  const pressure = shown("pressure", expected.pressureLoss, units);
  const resin = shown("resinVolume", expected.resinLitres, units);
  return [
    ["Your water, a week", litresRange(expected.week.low, expected.week.high, units)],
    ["One refill lasts", litresRange(expected.litres.low, expected.litres.high, units)],
    ...refillLines(plan),
    ["Resin for one refill", `${resin.text} ${resin.unit}`],
    ["To buy", wholeMoney(expected.purchase, currency)],
    ...(expected.perJob === undefined ? [] : [["A job costs", money(expected.perJob, currency)] as const]),
    ["Weight of a vessel, wet", `${weight.text} ${weight.unit}`],
    ["Contact time, pressure lost", `${threeDigits(expected.contactSeconds)} s, ${pressure.text} ${pressure.unit}`],
    ...(expected.wastePerYear > 0 ? [["Waste water a year", litres(expected.wastePerYear, units)] as const] : []),
  ];
}

function lineTable(rows: readonly (readonly [string, string])[], strongLast = false): Content {
  return {
    layout: {
      hLineWidth: (i: number) => (i === 0 ? 0 : 0.6),
      vLineWidth: () => 0,
      hLineColor: () => LINE,
      paddingLeft: () => 0,
      paddingRight: () => 0,
      paddingTop: () => 4,
      paddingBottom: () => 4,
    },
    table: {
      widths: ["*", "auto"],
      body: rows.map(([name, value], i) => [
        { text: name, color: SOFT },
        { text: value, alignment: "right", bold: strongLast && i === rows.length - 1 },
      ]),
    },
  };
}

const VESSEL_HIGH = 92; // pt

/** The vessel as it is, from its own sizes, with the resin in it. */
function vesselDrawn({ vessel }: Plan["option"]): { readonly svg: string; readonly width: number } {
  const shape = vesselShape(vessel.kind, vessel, VESSEL_HIGH);
  const fill = shape.floor - (shape.floor - shape.rim) * vessel.fillFraction;
  const [x, width] = [shape.middle - shape.body, 2 * shape.body];
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-2 -2 ${shape.width + 4} ${VESSEL_HIGH + 4}" width="${shape.width + 4}" height="${VESSEL_HIGH + 4}"><rect x="${x}" y="${fill}" width="${width}" height="${shape.floor - fill}" fill="#dcebf0"/><path d="${shape.head}" fill="${INK}"/><path d="${shape.wall}" fill="none" stroke="${INK}" stroke-width="2"/></svg>`;
  return { svg, width: shape.width + 4 };
}

/** Kinds of work that the page names; with all of fifty it would be no one page. */
const MOST_NAMED = 5;

/** One page for a customer: what is proposed, what it does and costs, what it rests on. */
export function planDocument(plan: Plan, { tap, version, units }: PlanContext): TDocumentDefinitions {
  const { expected, currency, option, work } = plan;
  const peak = shown("flow", work.peakFlow, units);
  const { fillFlow } = work.before ?? {};
  const twoMembranes = work.before?.secondMembrane === true && hasMembrane(option.before);
  const fill = fillFlow === undefined ? undefined : shown("flow", fillFlow, units);
  const feed = tap
    ? `${threeDigits(tap.low)} to ${threeDigits(tap.high)} ${scaleUnit(tap.scale)}, typically ${threeDigits(tap.typical)}`
    : "as entered";
  const costs = COST_PARTS.filter(([part]) => expected.cost[part] > 0).map(
    ([part, name]) => [name, wholeMoney(expected.cost[part], currency)] as const,
  );
  const { items } = work.demand;
  const rest = items.length > MOST_NAMED ? `, and ${items.length - MOST_NAMED} more` : "";
  const parts = `${items
    .slice(0, MOST_NAMED)
    .map((item) => itemInWords(item, units))
    .join(", ")}${rest}`;
  const tapName = tap?.name ?? "the tap";
  return {
    info: { title: plan.name, creator: "Winter Bead", producer: "Winter Bead" },
    pageSize: units === "us" ? "LETTER" : "A4",
    pageMargins: [48, 44, 48, 44],
    defaultStyle: { fontSize: 10, color: INK, lineHeight: 1.15 },
    content: [
      { text: plan.name, fontSize: 22, bold: true },
      {
        text: `Pure water for ${USE_WORDS[plan.use]}, from ${tapName}. Version ${version}, ${dayMonthYear(new Date(plan.keptAt))}.`,
        color: SOFT,
        margin: [0, 2, 0, 14],
      },
      {
        columns: [
          {
            width: "*",
            stack: [
              { text: optionName(option), fontSize: 14, bold: true },
              {
                text: [
                  { text: wholeMoney(expected.cost.total, currency), fontSize: 26, bold: true },
                  { text: `  a year, ${moneyRange(expected.costRange.low, expected.costRange.high, currency)}` },
                ],
                margin: [0, 2, 0, 14],
              },
            ],
          },
          vesselDrawn(option),
        ],
        margin: [0, 0, 0, 10],
      },
      {
        columns: [
          {
            width: "*",
            stack: [{ text: "What it does", bold: true, margin: [0, 0, 0, 2] }, lineTable(figures(plan, units))],
          },
          {
            width: "*",
            stack: [
              { text: "What a year costs", bold: true, margin: [0, 0, 0, 2] },
              lineTable([...costs, ["A year", wholeMoney(expected.cost.total, currency)]], true),
            ],
          },
        ],
        columnGap: 28,
      },
      { text: "What it rests on", bold: true, margin: [0, 16, 0, 2] },
      {
        ul: [
          `Feed at ${tapName}: ${feed}.`,
          `Work of a usual week: ${parts}. Peak flow ${peak.text} ${peak.unit}${fill ? `, from a tank filled ahead at ${fill.text} ${fill.unit}` : ""}.${twoMembranes ? " A second membrane works on the waste of the first." : ""}`,
          `Changed at ${threeDigits(work.limit.value)} ${scaleUnit(work.limit.scale)}, counted ${work.until === "meter" ? "to what a meter shows" : "to the first leak of anything, carbon dioxide and silica too"}.`,
          `Ranges are corners: most work with the hardest water, least work with the softest. Prices are in ${currency} as they stood that day, each rounded to whole ones.`,
        ],
        color: SOFT,
      },
      { text: "Mind", bold: true, margin: [0, 12, 0, 2] },
      {
        ul: [
          `A wet vessel weighs ${shown("weight", expected.weight, units).text} ${shown("weight", expected.weight, units).unit}: follow your local rules on lifting.`,
          "Deionized water is no drinking water. Plumbing into a building is a licensed plumber’s work, with backflow protection as the local code requires.",
          "Let the pressure down before a head is loosened; gloves and eye protection at a refill; the resin’s safety data sheet has the last word, and the local authority on spent beads.",
        ],
        color: SOFT,
      },
    ],
  };
}

const HOUSE_FACE = {
  normal: "/fonts/atkinson-hyperlegible-next-400.woff",
  bold: "/fonts/atkinson-hyperlegible-next-700.woff",
};
/** Letters that the house's face has in its one file: Latin, and what stands between words. */
const IN_HOUSE_FACE = /^[\u0000-\u00ff\u0131\u0152\u0153\u02c6\u02da\u02dc\u2000-\u206f\u20ac\u2122\u2212]*$/;

const base64 = async (path: string): Promise<string> => {
  const response = await fetch(path);
  if (!response.ok) throw new NotFetched();
  const bytes = new Uint8Array(await response.arrayBuffer());
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
};

/** The face of a page: the house's own, or one with Greek and Cyrillic where a name needs it. */
async function faceFor(document: TDocumentDefinitions) {
  if (!IN_HOUSE_FACE.test(JSON.stringify(document.content))) {
    const { default: face } = await import("pdfmake/build/fonts/Roboto");
    return { face, name: "Roboto" };
  }
  const [normal, bold] = await Promise.all([base64(HOUSE_FACE.normal), base64(HOUSE_FACE.bold)]);
  return {
    face: {
      vfs: { "house-400.woff": normal, "house-700.woff": bold },
      fonts: {
        House: {
          normal: "house-400.woff",
          bold: "house-700.woff",
          italics: "house-400.woff",
          bolditalics: "house-700.woff",
        },
      },
    },
    name: "House",
  };
}

/** The page as a PDF, in the house's face where its letters are in it. */
export async function planPdf(plan: Plan, context: PlanContext): Promise<Blob> {
  const document = planDocument(plan, context);
  const [{ default: pdfMake }, { face, name }] = await fetchAgain(() =>
    Promise.all([import("pdfmake/build/pdfmake"), faceFor(document)]),
  );
  pdfMake.addFontContainer(face);
  return pdfMake.createPdf({ ...document, defaultStyle: { ...document.defaultStyle, font: name } }).getBlob();
}
