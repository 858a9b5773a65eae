import { DRAINED_RESIN_WEIGHT, type Claim } from "@winter-bead/core";
import type { NumberField } from "@winter-bead/core/src/descriptor/field";
import { CLAIM } from "@winter-bead/core/src/plan/asked";
import { liveFault } from "../../forms/live";
import { toInternal, toShown, typedNumber, type Units } from "../../ui/format";
import { scaleOf } from "../../forms/scales";
import { internalNumber } from "../../forms/texts";

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

/** The fields of a statement, by what is typed. */
export const CLAIM_FIELDS = {
  volume: CLAIM.fields.litres,
  ppm: CLAIM.fields.ppm,
  resin: CLAIM.fields.resinLitres,
  price: CLAIM.fields.price,
  refillPrice: CLAIM.fields.refillPrice,
} as const satisfies Readonly<Record<string, NumberField>>;
export type ClaimFigure = keyof typeof CLAIM_FIELDS;

/** Resin that is sold by weight, as litres of it. */
const byWeight = { ...CLAIM.fields.resinLitres, quantity: undefined };

function litresOfWeight(text: string, units: Units): string {
  const number = typedNumber(text);
  return number === undefined ? text : String(toInternal("weight", number, units) / DRAINED_RESIN_WEIGHT);
}

/** Reads the statements: only the water must be there; what else is missing stays open. */
export function parseClaims({ claims }: TypedClaims): ParsedClaims {
  const errors: Record<string, string> = {};
  const known = claims.flatMap((claim): Claim[] => {
    const { key, name, units, scale, resinBy } = claim;
    const read = (figure: ClaimFigure): number | undefined => {
      // A draft kept by an older version knows no later fillings.
      const typed = claim[figure] ?? "";
      const weighed = figure === "resin" && resinBy === "weight";
      const [field, text]: [NumberField, string] = weighed
        ? [byWeight, litresOfWeight(typed, units)]
        : [CLAIM_FIELDS[figure], typed];
      if (text.trim() === "") return undefined;
      const fault = liveFault(field, text, units);
      if (!fault) return internalNumber(field.quantity, typedNumber(text)!, units);
      errors[`${key}.${figure}`] = fault;
      return undefined;
    };
    const litres = read("volume");
    const [ppm, resinLitres, price] = [read("ppm"), read("resin"), read("price")];
    const isSet = claim.priceOf === "set";
    const refillPrice = isSet ? read("refillPrice") : undefined;
    if (litres === undefined) return [];
    return [
      {
        name: name.trim() === "" ? "Without a name" : name,
        litres,
        scale: scaleOf(scale),
        ...(ppm === undefined ? {} : { ppm }),
        ...(resinLitres === undefined ? {} : { resinLitres }),
        ...(price === undefined ? {} : { price }),
        ...(isSet ? { priceOf: "set" as const } : {}),
        ...(refillPrice === undefined ? {} : { refillPrice }),
      },
    ];
  });
  return { claims: known, errors };
}
