import { DRAINED_RESIN_WEIGHT, RANGES, type Claim } from "@winter-bead/core";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import { scaleOf } from "../../forms/scales";

/** A maker's statement as typed. */
export interface TypedClaim {
  readonly key: string;
  readonly name: string;
  /** The units of the statement itself, whatever the user's are. */
  readonly units: Units;
  readonly volume: string;
  readonly ppm: string;
  readonly scale: string;
  readonly resin: string;
  /** Resin is sold by volume or by weight. */
  readonly resinBy: "volume" | "weight";
  readonly price: string;
  readonly priceOf: "refill" | "set";
  readonly refillPrice: string;
}

export interface TypedClaims {
  readonly tapId: string;
  readonly claims: readonly TypedClaim[];
}

const text = (value: number) => String(Number(value.toPrecision(4)));

/** Two made-up statements, so that the place shows what it does. */
export const startClaims = (units: Units): TypedClaims => ({
  tapId: "",
  claims: [
    {
      key: "a",
      name: "First label (an example)",
      units,
      volume: text(toShown("volume", 4000, units)),
      ppm: "50",
      scale: "442",
      resin: text(toShown("resinVolume", 7, units)),
      resinBy: "volume",
      price: "150",
      priceOf: "set",
      refillPrice: "70",
    },
    {
      key: "b",
      name: "Second label (an example)",
      units,
      volume: text(toShown("volume", 2500, units)),
      ppm: "100",
      scale: "nacl",
      resin: text(toShown("resinVolume", 7, units)),
      resinBy: "volume",
      price: "80",
      priceOf: "refill",
      refillPrice: "",
    },
  ],
});

export const emptyClaim = (key: string, count: number, units: Units): TypedClaim => ({
  key,
  name: `Statement ${count}`,
  units,
  volume: "",
  ppm: "",
  scale: "nacl",
  resin: "",
  resinBy: "volume",
  price: "",
  priceOf: "refill",
  refillPrice: "",
});

export interface ParsedClaims {
  /** Statements with their water typed; the others wait. */
  readonly claims: readonly Claim[];
  /** `<key>.<field>`. */
  readonly errors: Readonly<Record<string, string>>;
}

/** Reads the statements: only the water must be there; what else is missing stays open. */
export function parseClaims({ claims }: TypedClaims): ParsedClaims {
  const errors: Record<string, string> = {};
  const read = (
    key: string,
    field: string,
    typed: string,
    name: string,
    most: number,
    units: Units,
    quantity?: "volume" | "resinVolume" | "weight",
  ) => {
    if (typed.trim() === "") return undefined;
    const number = typedNumber(typed);
    const value = number !== undefined && quantity ? toInternal(quantity, number, units) : number;
    if (value === undefined || value <= 0 || value > most) {
      errors[`${key}.${field}`] = value === undefined ? `${name} is not a number yet.` : `${name} can’t be that.`;
      return undefined;
    }
    return value;
  };
  const known = claims.flatMap((claim): Claim[] => {
    const { key, name, units, volume, ppm, scale, resin, resinBy, price } = claim;
    // A draft kept by an older version knows fillings only.
    const priceOf = (claim.priceOf as TypedClaim["priceOf"] | undefined) ?? "refill";
    const litres = read(key, "volume", volume, "The water", RANGES.ratedLitres.to, units, "volume");
    const feed = read(key, "ppm", ppm, "The feed", RANGES.ratedPpm.to, units);
    const byWeight = resinBy === "weight";
    const most = byWeight ? RANGES.volume.to * DRAINED_RESIN_WEIGHT : RANGES.volume.to;
    const said = read(key, "resin", resin, "The resin", most, units, byWeight ? "weight" : "resinVolume");
    const resinLitres = said === undefined || !byWeight ? said : said / DRAINED_RESIN_WEIGHT;
    const cost = read(key, "price", price, "The price", RANGES.price.to, units);
    const isSet = priceOf === "set";
    const later = isSet
      ? read(key, "refillPrice", claim.refillPrice ?? "", "The price of a refill", RANGES.price.to, units)
      : undefined;
    if (litres === undefined) return [];
    return [
      {
        name: name.trim() === "" ? "Without a name" : name,
        litres,
        scale: scaleOf(scale),
        ...(feed === undefined ? {} : { ppm: feed }),
        ...(resinLitres === undefined ? {} : { resinLitres }),
        ...(cost === undefined ? {} : { price: cost }),
        ...(isSet ? { priceOf } : {}),
        ...(later === undefined ? {} : { refillPrice: later }),
      },
    ];
  });
  return { claims: known, errors };
}
