import { addDays, daysBetween } from "../dates/calendar";
import type { Id } from "../descriptor/identity";
import type { Grade } from "../resin/capacity";
import type { VesselKind } from "../vessel/vessel.record";
import type { BagForm } from "./bag.record";
import { boughtAs, fitting, isEmpty, isItsCartridge, TOO_WEAK, type BagInStock } from "./stock";

/** A refill that will want resin. */
export interface ResinWanted {
  readonly rigId: Id;
  /** Of its vessel. */
  readonly kind: VesselKind;
  readonly grade: Grade;
  readonly litres: number;
  /** ISO date: the day it is planned for, or the early date where none is. */
  readonly on: string;
}

/** What is to be ordered of one grade: loose resin, or one ready-filled cartridge a refill. */
export interface OrderLine {
  readonly grade: Grade;
  readonly form: BagForm;
  readonly litres: number;
  /** Latest day to order. */
  readonly by: string;
  readonly for: readonly ResinWanted[];
}

/** Ready-filled cartridges as they are ordered: one a refill. @example cartridgesOf(line) // "2 ready-filled cartridges" */
export const cartridgesOf = ({ for: refills }: Pick<OrderLine, "for">): string =>
  refills.length === 1 ? "a ready-filled cartridge" : `${refills.length} ready-filled cartridges`;

/** What comes with one delivery. */
export interface Order {
  readonly by: string;
  readonly lines: readonly OrderLine[];
}

/** Orders whose last days lie so close come with one delivery: a planning assumption. */
const ONE_DELIVERY = 7;

/**
 * What has to be ordered until when: each refill takes from stock what is there, in the order of the days; what is missing
 * is ordered before the day less the delivery, in the form in which it was last bought. Resin too weak to be used does not
 * count.
 *
 * @example ordersFor([{ rigId, kind: "screw-head-tank", grade: "virgin", litres: 24, on: "2027-03-20" }], [], 4)[0].by // "2027-03-16"
 */
export function ordersFor(
  wanted: readonly ResinWanted[],
  stock: readonly BagInStock[],
  deliveryDays: number,
): readonly Order[] {
  const usable = stock.filter((each) => !isEmpty(each) && each.worth.share.typical >= TOO_WEAK);
  const cartridges = usable.map(({ bag }) => bag).filter(({ form }) => form === "cartridge");
  const loose = new Map<Grade, number>();
  for (const { bag, left } of usable)
    if (bag.form === "loose") loose.set(bag.grade, (loose.get(bag.grade) ?? 0) + left);
  const missing: (ResinWanted & Pick<OrderLine, "form"> & { readonly short: number })[] = [];
  for (const each of [...wanted].sort((a, b) => (a.on < b.on ? -1 : 1))) {
    const { kind, grade, litres } = each;
    const own =
      kind === "cartridge" ? cartridges.findIndex((bag) => bag.grade === grade && isItsCartridge(bag, litres)) : -1;
    if (own >= 0) {
      cartridges.splice(own, 1);
      continue;
    }
    const form = boughtAs(fitting(stock, { kind }), grade, litres);
    const here = loose.get(grade) ?? 0;
    if (here >= litres || form === "loose") loose.set(grade, Math.max(0, here - litres));
    if (here < litres) missing.push({ ...each, form, short: form === "cartridge" ? litres : litres - here });
  }
  const orders: { by: string; wanted: (typeof missing)[number][] }[] = [];
  for (const each of missing) {
    const by = addDays(each.on, -deliveryDays);
    const last = orders[orders.length - 1];
    if (last && daysBetween(last.by, by) <= ONE_DELIVERY) last.wanted.push(each);
    else orders.push({ by, wanted: [each] });
  }
  return orders.map(({ by, wanted: all }) => {
    const line = ({ grade, form }: Pick<OrderLine, "grade" | "form">): OrderLine => {
      const alike = all.filter((each) => each.grade === grade && each.form === form);
      const litres = alike.reduce((sum, { short }) => sum + short, 0);
      return { grade, form, litres, by, for: alike.map(({ short: _, form: _form, ...each }) => each) };
    };
    const isFirst = (each: (typeof all)[number], i: number) =>
      all.findIndex(({ grade, form }) => grade === each.grade && form === each.form) === i;
    return { by, lines: all.filter(isFirst).map(line) };
  });
}
