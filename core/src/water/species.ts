/**
 * Exchangeable ions of each side, most weakly held first, the ion of fresh resin last. `hco3` stands for carbon dioxide
 * and alkalinity together, `sio2` for silica.
 */
export const CATION_SPECIES = ["na", "nh4", "k", "mg", "ca"] as const;
export const ANION_SPECIES = ["sio2", "hco3", "cl", "no3", "so4"] as const;

export type CationSpecies = (typeof CATION_SPECIES)[number];
export type AnionSpecies = (typeof ANION_SPECIES)[number];
export type Species = CationSpecies | AnionSpecies;
export const SPECIES: readonly Species[] = [...CATION_SPECIES, ...ANION_SPECIES];

/** A feed by its exchangeable ions, meq/L; `hco3` and `sio2` in mmol/L, which is the same for an ion of one charge. */
export type IonFeed = { readonly [species in Species]: number };

/** A feed with the ions it does not have left out. */
export type PartialFeed = { readonly [species in Species]?: number | undefined };

/** @example completeFeed({ na: 2.6, cl: 2.6 }).ca // 0 */
export const completeFeed = (feed: PartialFeed): IonFeed =>
  Object.fromEntries(SPECIES.map((species) => [species, feed[species] ?? 0])) as IonFeed;

/**
 * Separation factors against the weakest feed ion: a large one is strongly held. Planning assumptions after Helfferich
 * 1962, Ion Exchange.
 */
export const SEPARATION: Readonly<Record<Species, number>> = {
  na: 1,
  nh4: 1.3,
  k: 1.5,
  mg: 25,
  ca: 50,
  sio2: 1,
  hco3: 3,
  cl: 15,
  no3: 40,
  so4: 80,
};

/** Where acid meets base in the same bed, fresh resin is an almost perfect sink. */
export const NEUTRALIZED = 1e-4;
/** Fresh resin with nothing that neutralizes what it gives off. */
export const UNNEUTRALIZED = { cation: 0.7, anion: 0.5 } as const;
/** Sites of a separate cation bed that regeneration left as sodium: a planning assumption. */
export const SODIUM_LEFT_BY_REGENERATION = 0.02;

/** Charge of each species, to turn meq/L into mmol/L. */
export const CHARGES: Readonly<Record<Species, 1 | 2>> = {
  na: 1,
  nh4: 1,
  k: 1,
  mg: 2,
  ca: 2,
  sio2: 1,
  hco3: 1,
  cl: 1,
  no3: 1,
  so4: 2,
};

const total = (feed: IonFeed, species: readonly Species[]) => species.reduce((sum, each) => sum + feed[each], 0);

/** Load on the cation beads, meq/L. */
export const cationsOf = (feed: IonFeed) => total(feed, CATION_SPECIES);
/** Load on the anion beads, meq/L, carbon dioxide and silica included. */
export const anionsOf = (feed: IonFeed) => total(feed, ANION_SPECIES);
/** Anions of strong acids, meq/L: what no bicarbonate neutralizes. */
export const strongAnionsOf = (feed: IonFeed) => feed.cl + feed.no3 + feed.so4;
