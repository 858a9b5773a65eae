/** A figure of a zone's water: its mean and half the way from its lowest to its highest time of the year. */
export interface SeasonalFigure {
  readonly parameter: string;
  readonly unit: string;
  readonly mean: number;
  readonly swing: number;
  readonly digits: number;
}

export interface Zone {
  readonly id: string;
  readonly name: string;
  /** Day of the year with the hardest water. */
  readonly peakDay: number;
  readonly figures: readonly SeasonalFigure[];
}

const figure = (parameter: string, unit: string, mean: number, swing: number, digits = 1): SeasonalFigure => ({
  parameter,
  unit,
  mean,
  swing,
  digits,
});

/** Supply zones of Vellin Quay, an invented town; its figures are invented too. */
export const ZONES: readonly Zone[] = [
  {
    id: "harbour",
    name: "Harbour zone, reservoir water",
    peakDay: 215,
    figures: [
      figure("Calcium", "mg/L", 19, 3.4),
      figure("Magnesium", "mg/L", 4.1, 0.6),
      figure("Sodium", "mg/L", 11.2, 1.4),
      figure("Potassium", "mg/L", 1.3, 0.1),
      figure("Chloride", "mg/L", 17.5, 2.1),
      figure("Sulfate", "mg/L", 14.1, 1.8),
      figure("Nitrate", "mg/L as N", 0.7, 0.2, 2),
      figure("Fluoride", "mg/L", 0.2, 0, 2),
      figure("Alkalinity", "mg/L as CaCO3", 48, 8),
      figure("pH", "", 7.5, -0.1, 2),
      figure("Silica", "mg/L", 3.4, 0.7),
      figure("Conductivity", "µS/cm", 192, 32, 0),
      figure("Turbidity", "NTU", 0.2, 0.05, 2),
    ],
  },
  {
    id: "kiln-hill",
    name: "Kiln Hill zone, blended wells",
    peakDay: 200,
    figures: [
      figure("Calcium", "mg/L", 39, 2.6),
      figure("Magnesium", "mg/L", 8.2, 0.6),
      figure("Sodium", "mg/L", 15.4, 1.2),
      figure("Potassium", "mg/L", 2.1, 0.1),
      figure("Chloride", "mg/L", 22.6, 1.6),
      figure("Sulfate", "mg/L", 21.4, 1.6),
      figure("Nitrate", "mg/L as N", 1.9, 0.2, 2),
      figure("Fluoride", "mg/L", 0.3, 0, 2),
      figure("Alkalinity", "mg/L as CaCO3", 118, 9),
      figure("pH", "", 7.3, -0.05, 2),
      figure("Silica", "mg/L", 6.2, 0.5),
      figure("Conductivity", "µS/cm", 342, 22, 0),
      figure("Total chlorine", "mg/L as Cl2", 0.4, 0.1, 2),
    ],
  },
  {
    id: "heron",
    name: "Heron zone, deep wells",
    peakDay: 240,
    figures: [
      figure("Calcium", "mg/L", 46, 3.1),
      figure("Magnesium", "mg/L", 10.4, 0.8),
      figure("Sodium", "mg/L", 22.8, 1.6),
      figure("Potassium", "mg/L", 2.6, 0.2),
      figure("Ammonium", "mg/L as N", 0.35, 0.1, 2),
      figure("Chloride", "mg/L", 31, 2.2),
      figure("Sulfate", "mg/L", 30.5, 2),
      figure("Nitrate", "mg/L", 6.4, 0.6),
      figure("Alkalinity", "mg/L as CaCO3", 141, 8),
      figure("pH", "", 7.1, -0.05, 2),
      figure("Silica", "mg/L", 7.1, 0.6),
      figure("Conductivity", "mS/m", 42.4, 2.8, 1),
      figure("Monochloramine", "mg/L as Cl2", 1.6, 0.2, 2),
    ],
  },
];

/** Sine wave of a figure on a day of the year. */
export function figureOn({ mean, swing, digits }: SeasonalFigure, peakDay: number, day: Date): number {
  const ofYear = (day.getTime() - Date.UTC(day.getUTCFullYear(), 0, 0)) / 86_400_000;
  return Number((mean + swing * Math.cos((2 * Math.PI * (ofYear - peakDay)) / 365)).toFixed(digits));
}
