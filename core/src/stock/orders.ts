import { addDays, daysBetween } from "../dates/calendar";
import type { Id } from "../descriptor/identity";
import type { Grade } from "../resin/capacity";
import { isEmpty, TOO_WEAK, type BagInStock } from "./stock";

/** A refill that will want resin. */
export interface ResinWanted {
  readonly rigId: Id;
  readonly grade: Grade;
  readonly litres: number;
  /** ISO date: the day it is planned for, or the early date where none is. */
  readonly on: string;
}

/** What is to be ordered of one grade. */
export interface OrderLine {
  readonly grade: Grade;
  readonly litres: number;
  /** Latest day to order. */
  readonly by: string;
  readonly for: readonly ResinWanted[];
}

/** What comes with one delivery. */
export interface Order {
  readonly by: string;
  readonly lines: readonly OrderLine[];
}

/** Orders whose last days lie so close come with one delivery: a planning assumption. */
const ONE_DELIVERY = 7;

/**
 * What has to be ordered until when: each refill takes from stock what is there, in the order of the days; what is missing
 * is ordered before the day less the delivery. Resin too weak to be used does not count.
 *
 * @example ordersFor([{ rigId, grade: "virgin", litres: 24, on: "2027-03-20" }], [], 4)[0].by // "2027-03-16"
 */
export function ordersFor(
  wanted: readonly ResinWanted[],
  stock: readonly BagInStock[],
  deliveryDays: number,
): readonly Order[] {
  const usable = new Map<Grade, number>();
  for (const each of stock)
    if (!isEmpty(each) && each.worth.share.typical >= TOO_WEAK && each.bag.form === "loose")
      usable.set(each.bag.grade, (usable.get(each.bag.grade) ?? 0) + each.left);
  const missing: (ResinWanted & { readonly short: number })[] = [];
  for (const each of [...wanted].sort((a, b) => (a.on < b.on ? -1 : 1))) {
    const here = usable.get(each.grade) ?? 0;
    usable.set(each.grade, Math.max(0, here - each.litres));
    if (here < each.litres) missing.push({ ...each, short: each.litres - here });
  }
  const orders: { by: string; wanted: (typeof missing)[number][] }[] = [];
  for (const each of missing) {
    const by = addDays(each.on, -deliveryDays);
    const last = orders[orders.length - 1];
    if (last && daysBetween(last.by, by) <= ONE_DELIVERY) last.wanted.push(each);
    else orders.push({ by, wanted: [each] });
  }
  return orders.map(({ by, wanted: all }) => ({
    by,
    lines: [...new Set(all.map(({ grade }) => grade))].map((grade): OrderLine => {
      const ofGrade = all.filter((each) => each.grade === grade);
      return {
        grade,
        litres: ofGrade.reduce((sum, { short }) => sum + short, 0),
        by,
        for: ofGrade.map(({ short: _, ...each }) => each),
      };
    }),
  }));
}
