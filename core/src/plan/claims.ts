import type { ThreeOf } from "../life/life-range";
import {
  CHEMISTRY_CEILING,
  CONSTANT_PER_CAPACITY,
  GRADE_CAPACITIES,
  smallerSide,
  TRADE_CONSTANT_BAND,
} from "../resin/capacity";
import { checkRanges, RANGES } from "../ranges";
import { fail, finite, within, type Result } from "../result";
import { checkScale, scaleFactor, type Scale } from "../water/meter";
import { describeWater, type Water, type WaterAnswer } from "../water/water";
import type { Claim } from "./asked";
import type { Prices } from "./prices";

export type { Claim };

/** Years of your own work, over which a set and its refills are compared. */
export interface ClaimYears {
  readonly years: number;
  /** L that you use in a year. */
  readonly litresPerYear: number;
  /** Money for a litre of virgin resin, where a set doesn't say what its refill costs. */
  readonly resinPrice: number;
}

export interface ClaimsInput {
  readonly claims: readonly Claim[];
  /** Your tap. */
  readonly waters: ThreeOf<Water>;
  /** Your work; without it a price is only held against one filling. */
  readonly over?: ClaimYears | undefined;
}

/** What a statement costs over the years of your work. */
export interface ClaimOverYears {
  readonly fillings: number;
  /** Money at first, and for each later filling. */
  readonly first: number;
  readonly later: number;
  /** Money in all, and for 1000 L. */
  readonly cost: number;
  readonly per1000Litres: number;
}

/** What a claim comes to; what its statement leaves open is absent. */
export interface ClaimAnswer {
  /** Its place among the statements as they were given, from 0. */
  readonly index: number;
  readonly name: string;
  /** L at your tap by the salt a meter sees: the claim scaled by feed alone, as the trade does. */
  readonly litres?: ThreeOf<number>;
  /** L at your tap when carbon dioxide and silica count too. */
  readonly litresToLeak?: ThreeOf<number>;
  /** eq per litre of resin that the claim takes for granted. */
  readonly capacity?: number;
  /** The same as US gal·ppm per ft³ on the sodium-chloride scale, and where it stands among those in use. */
  readonly constant?: number;
  readonly band?: "below" | "within" | "above";
  /** More than the beads' own chemistry holds. */
  readonly tooHigh: boolean;
  /** L at your tap that the same resin gives by its grade (virgin), for a claim that says its resin volume. */
  readonly byChemistry?: number;
  /** L at your tap that can be believed: the claim, or what the beads hold where it is too high. */
  readonly credible?: number;
  /** Believed litres for one unit of money; of two statements the larger is the better buy. */
  readonly litresPerMoney?: number;
  /** Money per 1000 believed L at your tap, of the first filling. */
  readonly per1000Litres?: number;
  readonly overYears?: ClaimOverYears;
  /** For a claim without a feed: µS/cm above which virgin resin of that volume can't give the litres. */
  readonly onlyBelow?: number;
  /** In words, what the statement leaves out. */
  readonly missing: readonly string[];
}

const CLAIM_RANGES = {
  litres: { ...RANGES.ratedLitres, name: "The claimed water" },
  ppm: { ...RANGES.ratedPpm, name: "The claim's feed" },
  resinLitres: RANGES.volume,
  price: { ...RANGES.price, above: 0, name: "The price" },
  refillPrice: { ...RANGES.price, name: "The price of a refill" },
};

/** A set is bought once and filled again; a filling is bought each time. */
function overYears(claim: Claim, credible: number, over: ClaimYears): ClaimOverYears | undefined {
  const { price, priceOf = "refill", refillPrice, resinLitres } = claim;
  if (price === undefined) return undefined;
  const isSet = priceOf === "set";
  const later = isSet
    ? (refillPrice ?? (resinLitres === undefined ? undefined : resinLitres * over.resinPrice))
    : price;
  if (later === undefined) return undefined;
  const litres = over.years * over.litresPerYear;
  const fillings = Math.max(1, litres / credible);
  const cost = price + (fillings - 1) * later;
  return { fillings, first: price, later, cost, per1000Litres: (1000 * cost) / litres };
}

/** A vessel of the same resin bought second-hand, as a share of a new one: a planning assumption. */
const SECOND_HAND = 0.4;
/** Resin fills so much of a vessel. */
const FILL = 0.85;

/**
 * What a claim stands beside: the same resin in a vessel put together by hand, or bought second-hand, at your own prices and
 * by the beads' chemistry at your tap.
 *
 * @example ownBuilds(7, waters.typical, DEFAULT_PRICES).value.map(({ name }) => name) // ["Self-built", "Second-hand vessel"]
 */
export function ownBuilds(resinLitres: number, water: Water, prices: Prices): Result<readonly Claim[]> {
  const described = describeWater(water);
  if (!described.ok) return described;
  const { ec25 } = described.value;
  const litres = (CHEMISTRY_CEILING * 1000 * resinLitres) / (ec25 / 100);
  const vessel = prices.vesselBase + (prices.vesselPerLitre * resinLitres) / FILL;
  const refillPrice = resinLitres * prices.resin.virgin;
  const build = (name: string, price: number): Claim => ({
    name,
    litres,
    ppm: ec25,
    scale: "ec",
    resinLitres,
    price: price + refillPrice,
    priceOf: "set",
    refillPrice,
  });
  return finite([build("Self-built", vessel), build("Second-hand vessel", SECOND_HAND * vessel)]);
}

function missingOf({ ppm, resinLitres, price }: Claim): string[] {
  return [
    ...(ppm === undefined ? ["It says no feed, so it says nothing about your tap."] : []),
    ...(resinLitres === undefined
      ? ["It says no resin volume, so it can't be held against the beads' chemistry."]
      : []),
    ...(price === undefined ? ["Without a price it can't be compared by money."] : []),
  ];
}

const three = (of: (water: WaterAnswer) => number, waters: ThreeOf<WaterAnswer>): ThreeOf<number> => {
  const [low, typical, high] = [of(waters.high), of(waters.typical), of(waters.low)].sort((a, b) => a - b) as [
    number,
    number,
    number,
  ];
  return { low, typical, high };
};

const largerLoad = ({ cationLoad, anionLoad }: WaterAnswer) => Math.max(cationLoad, anionLoad);
const bandOf = (constant: number) =>
  constant < TRADE_CONSTANT_BAND.low ? "below" : constant > TRADE_CONSTANT_BAND.high ? "above" : "within";

/** meq that the whole filling is said to take. */
const claimedLoad = (litres: number, ppm: number, scale: Scale) => (litres * ppm) / scaleFactor(scale) / 100;

function answerClaim(
  claim: Claim,
  index: number,
  waters: ThreeOf<WaterAnswer>,
  over: ClaimYears | undefined,
): ClaimAnswer {
  const { name, litres, ppm, scale, resinLitres, price } = claim;
  const held = ppm === undefined ? undefined : claimedLoad(litres, ppm, scale);
  const virgin = smallerSide(GRADE_CAPACITIES.virgin);
  const visible = held === undefined ? undefined : three(({ ec25 }) => held / (ec25 / 100), waters);
  const capacity = held === undefined || resinLitres === undefined ? undefined : held / (1000 * resinLitres);
  const tooHigh = capacity !== undefined && capacity > CHEMISTRY_CEILING * (1 + 1e-9);
  const byChemistry =
    resinLitres === undefined ? undefined : (virgin * 1000 * resinLitres) / (waters.typical.ec25 / 100);
  const credible = tooHigh ? byChemistry : visible?.typical;
  const years = credible !== undefined && over ? overYears(claim, credible, over) : undefined;
  return {
    index,
    name,
    tooHigh,
    missing: missingOf(claim),
    ...(visible && held !== undefined
      ? { litres: visible, litresToLeak: three((water) => held / largerLoad(water), waters) }
      : {}),
    ...(capacity === undefined
      ? {}
      : {
          capacity,
          constant: capacity * CONSTANT_PER_CAPACITY,
          band: bandOf(capacity * CONSTANT_PER_CAPACITY),
        }),
    ...(byChemistry === undefined ? {} : { byChemistry }),
    ...(credible === undefined ? {} : { credible }),
    ...(credible !== undefined && price !== undefined
      ? { litresPerMoney: credible / price, per1000Litres: (1000 * price) / credible }
      : {}),
    ...(years ? { overYears: years } : {}),
    ...(ppm === undefined && resinLitres !== undefined
      ? { onlyBelow: (100 * virgin * 1000 * resinLitres) / litres }
      : {}),
  };
}

function checkClaim(claim: Claim): Result<true> {
  if (claim.name.trim() === "") return fail("no-name", "Give the statement a name.", "name");
  const scale = checkScale(claim.scale);
  if (!scale.ok) return scale;
  return checkRanges(claim as Partial<Record<keyof typeof CLAIM_RANGES, number>>, CLAIM_RANGES);
}

/**
 * Makers' statements on one footing: at your tap, per unit of money, and as one capacity figure, with those flagged that are
 * beyond what the resin volume can hold. The dearest per litre, over the years of your work where it is known, stands last;
 * those that can't be compared come after.
 *
 * @returns a fault for a figure outside its range; what a statement leaves out is said, not refused
 * @example bringClaims({ claims: [{ name: "A", litres: 4000, ppm: 100, scale: "nacl", resinLitres: 10 }], waters })
 *   // capacity 0.80 eq/L: tooHigh
 */
export function bringClaims({ claims, waters, over }: ClaimsInput): Result<readonly ClaimAnswer[]> {
  const described: Partial<Record<keyof ThreeOf<Water>, WaterAnswer>> = {};
  for (const key of ["low", "typical", "high"] as const) {
    const water = within(`waters.${key}`, describeWater(waters[key]));
    if (!water.ok) return water;
    described[key] = water.value;
  }
  const answers: ClaimAnswer[] = [];
  for (const [i, claim] of claims.entries()) {
    const checked = within(`claims.${i}`, checkClaim(claim));
    if (!checked.ok) return checked;
    answers.push(answerClaim(claim, i, described as ThreeOf<WaterAnswer>, over));
  }
  const worth = ({ overYears: years, litresPerMoney }: ClaimAnswer) =>
    over ? (years ? 1000 / years.per1000Litres : -1) : (litresPerMoney ?? -1);
  return finite(answers.sort((a, b) => worth(b) - worth(a)));
}
