import { createFont, createTamagui, createTokens } from "@tamagui/core";

/** Paper and spruce: one ink, pale ice for what is free or uncertain, rowan only for what needs a hand. */
const light = {
  paper: "#f2f6f7",
  card: "#ffffff",
  ink: "#102430",
  soft: "#3d5361",
  line: "#c4d2d8",
  ice: "#dcebf0",
  frost: "#a9b4ba",
  rowan: "#a8331f",
  onInk: "#ffffff",
  /** Beads: what is free, what is taken, and their outline. */
  free: "#dcebf0",
  taken: "#102430",
  bead: "#102430",
} as const;

const dark: { readonly [role in keyof typeof light]: string } = {
  paper: "#0c1a22",
  card: "#13252f",
  ink: "#eef5f7",
  soft: "#b4c5cd",
  line: "#34505e",
  ice: "#274451",
  frost: "#7d909a",
  rowan: "#ff9b82",
  onInk: "#0c1a22",
  // On a dark ground the fresh beads are the light ones: what is taken must not glow.
  free: "#cfe1e8",
  taken: "#2b4452",
  bead: "#93a9b4",
};

const space = { 0: 0, 1: 4, 2: 8, 3: 12, 4: 16, 5: 20, 6: 24, 8: 32, 10: 40, 12: 48, 14: 56, true: 16 } as const;

const tokens = createTokens({
  color: { transparent: "transparent" },
  space,
  size: space,
  radius: { 0: 0, 1: 6, 2: 10, 3: 14, 4: 20, true: 14 },
  zIndex: { 0: 0, 1: 100, 2: 200, true: 0 },
});

/** At the usual font size; in the browser they grow and shrink with the one its user has set. */
const steps = { 1: 14, 2: 16, 3: 18, 4: 21, 5: 26, 6: 32, 7: 44, true: 16 } as const;
const keyed = <T>(of: (size: number) => T) =>
  Object.fromEntries(Object.entries(steps).map(([key, size]) => [key, of(size)])) as Record<keyof typeof steps, T>;
/** The library's types know pixels only; a length in rem goes out as it is. */
const rem = (pixels: number) => `${pixels / 16}rem` as unknown as number;

const body = createFont({
  family: '"Atkinson Hyperlegible Next", system-ui, sans-serif',
  size: keyed(rem),
  lineHeight: keyed((size) => rem(Math.round(size * (size > 24 ? 1.15 : 1.4)))),
  weight: keyed(() => "400"),
  letterSpacing: keyed(() => 0),
});

export const config = createTamagui({
  tokens,
  themes: { light, dark },
  fonts: { body, heading: body },
  media: { wide: { minWidth: 900 } },
  settings: {
    defaultFont: "body",
    styleCompat: "web",
    shouldAddPrefersColorThemes: false,
    disableSSR: true,
    onlyAllowShorthands: false,
  },
});

export type Palette = { readonly [role in keyof typeof light]: string };
export const PALETTES: { readonly light: Palette; readonly dark: Palette } = { light, dark };

type Config = typeof config;
declare module "@tamagui/core" {
  // The library asks for its configuration's type by this name.
  interface TamaguiCustomConfig extends Config {}
}
