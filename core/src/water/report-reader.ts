import { isWithin, outOfRangeSentence, RANGES, type Range } from "../ranges";
import { EQUIVALENT_WEIGHTS } from "./analysis";
import { SILICA_MG_PER_MMOL, CO2_MG_PER_MMOL } from "./carbon-dioxide";
import type { ReportValues } from "./water-report.record";

/** One line of a report as it came: from a file, a service or a page. */
export interface ReportLine {
  readonly parameter: string;
  readonly value: number | string;
  readonly unit?: string | undefined;
}

export interface ReportComplaint {
  readonly parameter: string;
  /** One sentence that says what to do. */
  readonly message: string;
}

export interface ReadReport {
  readonly values: ReportValues;
  readonly complaints: readonly ReportComplaint[];
  /** Parameters that no calculation here needs. */
  readonly ignored: readonly string[];
}

type Field = keyof ReportValues;

interface Parameter {
  readonly name: string;
  readonly range: Range;
  /** Milligrams of the field's own form in one unit of the other form; molar and equivalent weights where they apply. */
  readonly millimole?: number;
  readonly equivalent?: number;
  readonly forms?: Readonly<Record<string, number>>;
  readonly names: readonly string[];
}

const AS_NITROGEN = 14.007;

const ion = (
  name: string,
  field: keyof typeof EQUIVALENT_WEIGHTS,
  charge: number,
  names: readonly string[],
  more = {},
): Parameter => ({
  name,
  range: { ...RANGES.ion, name: `The ${name}` },
  equivalent: EQUIVALENT_WEIGHTS[field],
  millimole: EQUIVALENT_WEIGHTS[field] * charge,
  names,
  ...more,
});

/** What a report may call each figure, and the forms it may be stated in. */
const PARAMETERS: Readonly<Record<Field, Parameter>> = {
  ca: ion("calcium", "ca", 2, ["calcium", "ca"], {
    forms: { caco3: EQUIVALENT_WEIGHTS.ca / EQUIVALENT_WEIGHTS.alkalinity },
  }),
  mg: ion("magnesium", "mg", 2, ["magnesium", "mg"], {
    forms: { caco3: EQUIVALENT_WEIGHTS.mg / EQUIVALENT_WEIGHTS.alkalinity },
  }),
  na: ion("sodium", "na", 1, ["sodium", "na"]),
  k: ion("potassium", "k", 1, ["potassium", "k"]),
  nh4: ion("ammonium", "nh4", 1, ["ammonium", "ammonia", "nh4"], {
    forms: { n: EQUIVALENT_WEIGHTS.nh4 / AS_NITROGEN },
  }),
  cl: ion("chloride", "cl", 1, ["chloride", "cl"]),
  so4: ion("sulfate", "so4", 2, ["sulfate", "sulphate", "so4"]),
  no3: ion("nitrate", "no3", 1, ["nitrate", "no3"], { forms: { n: EQUIVALENT_WEIGHTS.no3 / AS_NITROGEN } }),
  f: ion("fluoride", "f", 1, ["fluoride", "f"]),
  alkalinity: ion("alkalinity", "alkalinity", 1, ["alkalinity", "total alkalinity", "bicarbonate", "hco3"], {
    forms: { hco3: EQUIVALENT_WEIGHTS.alkalinity / 61.017, caco3: 1 },
  }),
  ph: { name: "pH", range: RANGES.ph, names: ["ph"] },
  silica: {
    name: "silica",
    range: RANGES.silica,
    millimole: SILICA_MG_PER_MMOL,
    forms: { si: SILICA_MG_PER_MMOL / 28.0855, sio2: 1 },
    names: ["silica", "sio2", "silicon dioxide"],
  },
  co2: {
    name: "carbon dioxide",
    range: RANGES.co2,
    millimole: CO2_MG_PER_MMOL,
    names: ["carbon dioxide", "co2", "free co2"],
  },
  chloramine: {
    name: "chloramine",
    range: { ...RANGES.ion, name: "The chloramine", to: 50 },
    forms: { cl2: 1 },
    names: ["chloramine", "monochloramine", "total chlorine"],
  },
  ec25: {
    name: "conductivity",
    range: { ...RANGES.value, name: "The conductivity", unit: "µS/cm" },
    names: ["conductivity", "ec", "electrical conductivity", "specific conductance"],
  },
  temperature: { name: "temperature", range: RANGES.temperature, names: ["temperature", "temp"] },
};

const FIELDS = Object.keys(PARAMETERS) as Field[];
export const reportFieldName = (field: Field) => PARAMETERS[field].name;

const plain = (text: string) => text.trim().toLowerCase().replaceAll(/\s+/g, " ");

const fieldNamed = (parameter: string): Field | undefined => {
  const name = plain(parameter)
    .replace(/ \((.*)\)$/, "")
    .replace(/ as (caco3|n|sio2|si|hco3|cl2)$/, "");
  return FIELDS.find((field) => PARAMETERS[field].names.includes(name));
};

const MASS: Readonly<Record<string, number>> = { "mg/l": 1, ppm: 1, "g/l": 1000, "ug/l": 1e-3, ppb: 1e-3 };
const CONDUCTIVITY: Readonly<Record<string, number>> = {
  "us/cm": 1,
  "ms/cm": 1000,
  "ms/m": 10,
  "us/m": 0.01,
  "s/m": 10_000,
};

/** What one of this unit is in the field's own unit; undefined for a unit nobody knows. */
function factorOf(field: Field, unit: string): number | undefined {
  const parameter = PARAMETERS[field];
  const text = plain(unit).replaceAll("µ", "u").replaceAll("μ", "u");
  if (field === "ph") return ["", "ph", "-", "units", "ph units"].includes(text) ? 1 : undefined;
  if (field === "ec25") return CONDUCTIVITY[text.replace(/ (at|@) ?25 ?°?c$/, "")];
  if (field === "temperature") return ["°c", "c", "degc"].includes(text) ? 1 : undefined;
  const [mass, form] = text.split(/ as /) as [string, string | undefined];
  if (mass === "mmol/l") return parameter.millimole;
  if (mass === "meq/l") return parameter.equivalent ?? parameter.millimole;
  const perMass = MASS[mass];
  if (perMass === undefined) return undefined;
  if (form === undefined) return perMass;
  const perForm = parameter.forms?.[form] ?? (parameter.names.includes(form) ? 1 : undefined);
  return perForm === undefined ? undefined : perMass * perForm;
}

/** A figure of a report: `<0.05` counts as none. */
function numberOf(value: number | string): number | undefined {
  if (typeof value === "number") return value;
  const text = value.trim();
  if (/^(<|nd$|n\.d\.$|not detected$)/i.test(text)) return 0;
  const number = text === "" ? NaN : Number(text.replace(/^(\d+),(\d+)$/, "$1.$2"));
  return Number.isFinite(number) ? number : undefined;
}

type Outcome = { readonly value: number } | { readonly message: string };

function readValue(field: Field, line: ReportLine): Outcome {
  const { name, range } = PARAMETERS[field];
  const title = name === "pH" ? name : name.charAt(0).toUpperCase() + name.slice(1);
  const number = numberOf(line.value);
  if (number === undefined)
    return { message: `${title}: “${String(line.value).slice(0, 20)}” is no number; type it by hand.` };
  const unit = line.unit ?? "";
  if (unit.trim() === "" && field !== "ph")
    return { message: `${title} ${number} comes without a unit; look it up and type it by hand.` };
  const factor = factorOf(field, unit);
  if (factor === undefined)
    return {
      message: `${title} comes in “${unit.slice(0, 20)}”, which is no unit for it; convert it and type it by hand.`,
    };
  const value = number * factor;
  if (isWithin(value, range)) return { value };
  const tooLarge = value > (range.to ?? Infinity);
  const hint = tooLarge ? ` ${number} ${unit} cannot be right: is the unit wrong by a thousand?` : "";
  return { message: `${outOfRangeSentence(range)}${hint}` };
}

/** `bicarbonate` in mg/L means mg/L as HCO3, where alkalinity means as CaCO3. */
const withOwnForm = (line: ReportLine): ReportLine =>
  /^(bicarbonate|hco3)/.test(plain(line.parameter)) &&
  line.unit &&
  !/ as /.test(line.unit) &&
  plain(line.unit) !== "meq/l"
    ? { ...line, unit: `${line.unit} as HCO3` }
    : /as N\)?$/i.test(line.parameter.trim()) && line.unit && !/ as /.test(line.unit)
      ? { ...line, unit: `${line.unit} as N` }
      : line;

/**
 * Reads a report line by line, whatever units it comes in. A line that can't be is left out with a sentence, the others
 * are kept.
 *
 * @example readReport([{ parameter: "Nitrate", value: 2.3, unit: "mg/L as N" }]).values.no3 // 10.2 mg/L
 */
export function readReport(lines: readonly ReportLine[]): ReadReport {
  const values: { [field in Field]?: number } = {};
  const complaints: ReportComplaint[] = [];
  const ignored: string[] = [];
  for (const line of lines) {
    const field = fieldNamed(line.parameter);
    if (!field) {
      ignored.push(line.parameter);
      continue;
    }
    const outcome = readValue(field, withOwnForm(line));
    if ("message" in outcome) complaints.push({ parameter: line.parameter, message: outcome.message });
    else if (values[field] !== undefined && Math.abs(values[field] - outcome.value) > 1e-9 * (1 + outcome.value))
      complaints.push({
        parameter: line.parameter,
        message: `The ${PARAMETERS[field].name} stands twice, with two values; the first is kept.`,
      });
    else values[field] ??= outcome.value;
  }
  return { values, complaints, ignored };
}

/** What a useful report should have and this one lacks, by name. */
export function missingFrom(values: ReportValues): readonly string[] {
  const wanted: readonly Field[] = ["ca", "mg", "na", "cl", "so4", "no3", "alkalinity", "ph", "silica", "ec25"];
  return wanted.filter((field) => values[field] === undefined).map((field) => PARAMETERS[field].name);
}
