import { keptMonthly, type Container } from "../resin/storage";
import type { BagForm } from "./bag.record";

/** A size in which resin can be bought: a bag, or a cartridge that is one refill. */
export interface BagOffer {
  readonly form: BagForm;
  readonly litres: number;
  /** Price of one. */
  readonly price: number;
  /** As the crew bought it; else a planning assumption. */
  readonly isOwn?: boolean;
}

export interface BagSizeQuestion {
  /** L of one refill, and the months from one to the next. */
  readonly fill: number;
  readonly everyMonths: number;
  /** How an opened bag is closed. */
  readonly closed: Container;
  readonly warm: boolean;
  /** Money of one order. */
  readonly delivery: number;
}

/** What a bag size comes to over a season. */
export interface BagSizeAnswer extends BagOffer {
  /** Money for resin that holds as much as a fresh litre. */
  readonly perFreshLitre: number;
  /** Share of fresh capacity of what went into the vessel, on average. */
  readonly worth: number;
  /** L that hold as much as fresh resin, of all that was bought. */
  readonly fresh: number;
  readonly orders: number;
  /** Months that the oldest rest lay open. */
  readonly oldestMonths: number;
  readonly bags: number;
}

/** A season: two years of refills, so that rests are counted and not only the first bag. */
const SEASON_MONTHS = 24;
const MOST_REFILLS = 60;

/** What one size comes to: rests are used first and age from the day their bag was opened. */
function seasonOf(offer: BagOffer, question: BagSizeQuestion): BagSizeAnswer {
  const { litres } = offer;
  const { fill, everyMonths, closed, warm } = question;
  const refills = Math.min(MOST_REFILLS, Math.max(2, Math.ceil(SEASON_MONTHS / everyMonths)));
  // A cartridge is opened when it is used, and leaves no rest.
  if (offer.form === "cartridge")
    return answer(offer, question, { bags: refills, orders: refills, fresh: refills * litres, oldestMonths: 0 });
  const keeps = keptMonthly(closed, warm);
  let open: { litres: number; since: number } | undefined;
  let [bags, orders, fresh, oldest] = [0, 0, 0, 0];
  for (let i = 0; i < refills; i += 1) {
    const now = i * everyMonths;
    let needs = fill;
    let ordered = false;
    while (needs > 1e-9) {
      if (!open || open.litres < 1e-9) {
        open = { litres, since: now };
        bags += 1;
        ordered = true;
      }
      const take = Math.min(open.litres, needs);
      const age = now - open.since;
      fresh += take * keeps ** age;
      oldest = Math.max(oldest, age);
      open.litres -= take;
      needs -= take;
    }
    if (ordered) orders += 1;
  }
  // What is left in the last bag is not lost: it counts at what it is worth by the next refill.
  if (open) fresh += open.litres * keeps ** Math.max(0, refills * everyMonths - open.since);
  return answer(offer, question, { bags, orders, fresh, oldestMonths: oldest });
}

const answer = (
  offer: BagOffer,
  { delivery }: BagSizeQuestion,
  season: Pick<BagSizeAnswer, "bags" | "orders" | "fresh" | "oldestMonths">,
): BagSizeAnswer => ({
  ...offer,
  ...season,
  perFreshLitre: (season.bags * offer.price + season.orders * delivery) / season.fresh,
  worth: Math.min(1, season.fresh / (season.bags * offer.litres)),
});

/** Months after which opened resin should be used up: a planning assumption. */
export const USED_WITHIN = 12;

/**
 * Bag sizes by what their resin really costs: price, deliveries, and the capacity that rests lose while they wait.
 *
 * @returns cheapest first, those whose rests wait too long behind the others
 * @example bestBags([{ form: "loose", litres: 25, price: 200 }, { form: "loose", litres: 5, price: 45 }], { fill: 5, everyMonths: 6, closed: "left-open", warm: true, delivery: 0 })[0].litres // 5
 */
export const bestBags = (offers: readonly BagOffer[], question: BagSizeQuestion): readonly BagSizeAnswer[] =>
  offers
    .map((offer) => seasonOf(offer, question))
    .sort((a, b) => Number(waitsTooLong(a)) - Number(waitsTooLong(b)) || a.perFreshLitre - b.perFreshLitre);

const waitsTooLong = ({ oldestMonths }: BagSizeAnswer) => oldestMonths > USED_WITHIN;

/** Sizes that are commonly sold, L, and what a litre costs in each beside one from the largest: planning assumptions. */
export const COMMON_SIZES: readonly { readonly litres: number; readonly dearer: number }[] = [
  { litres: 5, dearer: 1.35 },
  { litres: 10, dearer: 1.18 },
  { litres: 25, dearer: 1 },
];

/** @param perLitre the crew's price of a litre from the largest bag */
export const commonOffers = (perLitre: number): readonly BagOffer[] =>
  COMMON_SIZES.map(({ litres, dearer }) => ({ form: "loose", litres, price: litres * perLitre * dearer }));

/** What a litre costs in a ready-filled cartridge beside one from the largest bag: a planning assumption. */
const CARTRIDGE_DEARER = 1.8;

/** A ready-filled cartridge for a housing that takes so many litres, where the crew has not noted one with its price. */
export const usualCartridge = (perLitre: number, litres: number): BagOffer => ({
  ...{ form: "cartridge", litres },
  price: litres * perLitre * CARTRIDGE_DEARER,
});
