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

/** What a maker says of a product, as far as it is said. */
export interface Claim {
  readonly name: string;
  /** L that it is to give. */
  readonly litres: number;
  /** At this feed, on this scale; many statements leave it out. */
  readonly ppm?: number;
  readonly scale: Scale;
  /** L of resin in it. */
  readonly resinLitres?: number;
  /** Money for one filling. */
  readonly price?: number;
}

export interface ClaimsInput {
  readonly claims: readonly Claim[];
  /** Your tap. */
  readonly waters: ThreeOf<Water>;
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
  /** Money per 1000 believed L at your tap. */
  readonly per1000Litres?: number;
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
};

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

function answerClaim(claim: Claim, index: number, waters: ThreeOf<WaterAnswer>): ClaimAnswer {
  const { name, litres, ppm, scale, resinLitres, price } = claim;
  const held = ppm === undefined ? undefined : claimedLoad(litres, ppm, scale);
  const virgin = smallerSide(GRADE_CAPACITIES.virgin);
  const visible = held === undefined ? undefined : three(({ ec25 }) => held / (ec25 / 100), waters);
  const capacity = held === undefined || resinLitres === undefined ? undefined : held / (1000 * resinLitres);
  const tooHigh = capacity !== undefined && capacity > CHEMISTRY_CEILING;
  const byChemistry =
    resinLitres === undefined ? undefined : (virgin * 1000 * resinLitres) / (waters.typical.ec25 / 100);
  const credible = tooHigh ? byChemistry : visible?.typical;
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
 * beyond what the resin volume can hold. The dearest per litre stands last; those that can't be compared come after.
 *
 * @returns a fault for a figure outside its range; what a statement leaves out is said, not refused
 * @example bringClaims({ claims: [{ name: "A", litres: 4000, ppm: 100, scale: "nacl", resinLitres: 10 }], waters })
 *   // capacity 0.80 eq/L: tooHigh
 */
export function bringClaims({ claims, waters }: ClaimsInput): Result<readonly ClaimAnswer[]> {
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
    answers.push(answerClaim(claim, i, described as ThreeOf<WaterAnswer>));
  }
  return finite(answers.sort((a, b) => (b.litresPerMoney ?? -1) - (a.litresPerMoney ?? -1)));
}
