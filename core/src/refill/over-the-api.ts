import { finite, type Result } from "../result";
import type { VesselKind } from "../vessel/vessel.record";
import { refillAmounts, type AmountsInput } from "./amounts";
import { effectsFor, practise, together, type MistakeName, type PracticeInput } from "./mistakes";

/** Litres in a bag, of the bags at hand in the order in which they are to be used. */
export interface BagAtHand {
  readonly id: string;
  readonly litres: number;
}

export interface RefillInput extends AmountsInput {
  readonly bags?: readonly BagAtHand[] | undefined;
}

export interface RefillAnswer {
  /** By its name: litres, scoops, wetting-water, floating-water, depth-of-fill and the weights. */
  readonly amounts: Readonly<
    Record<string, { readonly value: number; readonly unit: string; readonly twoPeople?: boolean }>
  >;
  /** What is taken from each bag, and what they lack together. */
  readonly bags: readonly { readonly id: string; readonly taken: number; readonly left: number }[];
  readonly missing: number;
}

/**
 * What hands need to know at a refill, and which bags it takes.
 * @example refillAnswer({ vessel, ways, bags: [{ id: "a", litres: 8 }, { id: "b", litres: 8 }] }) // 8 of a, 3.9 of b
 */
export function refillAnswer({ bags = [], ...input }: RefillInput): Result<RefillAnswer> {
  const amounts = refillAmounts(input);
  let missing = amounts.litres!.value;
  const taken = bags.map(({ id, litres }) => {
    const from = Math.min(missing, litres);
    missing -= from;
    return { id, taken: from, left: litres - from };
  });
  return finite({
    amounts: Object.fromEntries(
      Object.entries(amounts).map(([name, { value, twoPeople, explanation }]) => [
        name,
        { value, unit: explanation.unit, ...(twoPeople === undefined ? {} : { twoPeople }) },
      ]),
    ),
    bags: taken,
    missing,
  });
}

export interface PractiseInput extends PracticeInput {
  readonly kind: VesselKind;
  readonly mistakes: readonly MistakeName[];
}

interface Practised {
  readonly litres: number;
  /** On the scale of the limit. */
  readonly firstReading: number;
  /** L above the limit that reach the work. */
  readonly aboveLimit: number;
  readonly money: number;
}

/**
 * A refill done rightly and with mistakes: litres, first reading and money of both.
 * @returns the fault of the life, or of a mistake that leaves none
 */
export function practiseAnswer({
  kind,
  mistakes,
  ...input
}: PractiseInput): Result<{ readonly right: Practised; readonly done: Practised }> {
  const effects = effectsFor(kind);
  const [right, done] = [
    practise(input, together([])),
    practise(input, together(mistakes.map((name) => effects[name]))),
  ];
  if (!right.ok) return right;
  if (!done.ok) return done;
  const short = ({ litres, firstReading, aboveLimit, money }: typeof right.value): Practised => ({
    ...{ litres, firstReading, aboveLimit },
    money: money.total,
  });
  return finite({ right: short(right.value), done: short(done.value) });
}
