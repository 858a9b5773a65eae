import type { Palette } from "./theme";

/** Ions as a technician writes them. */
export const ION_NAMES = {
  ca: "Ca",
  mg: "Mg",
  na: "Na",
  k: "K",
  nh4: "NH₄",
  cl: "Cl",
  so4: "SO₄",
  no3: "NO₃",
  f: "F",
  alkalinity: "HCO₃",
  hco3: "HCO₃+CO₂",
  co2: "CO₂",
  sio2: "SiO₂",
  silica: "SiO₂",
  h: "H",
  oh: "OH",
} as const;

export type IonName = keyof typeof ION_NAMES;

/** How dark an ion is drawn, 0 like ice to 1 like ink: the more strongly held, the darker. */
const DARKNESS: Readonly<Record<IonName, number>> = {
  h: 0,
  oh: 0,
  na: 0.2,
  nh4: 0.34,
  k: 0.48,
  mg: 0.66,
  ca: 0.9,
  sio2: 0.16,
  silica: 0.16,
  co2: 0.26,
  hco3: 0.34,
  alkalinity: 0.34,
  f: 0.44,
  cl: 0.55,
  no3: 0.72,
  so4: 0.9,
};

const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));

/** The tone of an ion in this palette; no hue carries meaning. */
export function ionTone(ion: IonName, { ice, ink }: Palette): string {
  const [from, to] = [channels(ice), channels(ink)];
  const mixed = from.map((channel, i) => Math.round(channel + (to[i]! - channel) * DARKNESS[ion]));
  return `#${mixed.map((channel) => channel.toString(16).padStart(2, "0")).join("")}`;
}

/** Ink or its opposite, whichever can be read on the ion's tone. */
export const onIonTone = (ion: IonName, { ink, onInk }: Palette) => (DARKNESS[ion] > 0.45 ? onInk : ink);
