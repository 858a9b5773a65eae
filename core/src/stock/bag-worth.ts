import { DAYS_IN_MONTH, daysBetween } from "../dates/calendar";
import type { ThreeOf } from "../life/life-range";
import { keptMonthly, type Container } from "../resin/storage";
import type { Bag, FactoryPacking } from "./bag.record";

/** As whose loss a factory's packing counts. */
const SEALED_AS: Readonly<Record<FactoryPacking, Container>> = {
  film: "shrink-film",
  foil: "sealed-foil",
  vacuum: "sealed-foil",
  pail: "snap-lid-pail",
};

/** How a bag is taken to be closed where nobody said it. */
const closedAs = ({ closed, packing }: Pick<Bag, "closed" | "packing">): Container =>
  closed ?? (packing === "pail" ? "snap-lid-pail" : "rolled-or-zip");

/** Months that a bag may have lain before it was bought, where its date is unknown: planning assumptions. */
const SHELF_MONTHS: ThreeOf<number> = { low: 0, typical: 3, high: 12 };

const months = (from: string, until: string) => Math.max(0, daysBetween(from, until) / DAYS_IN_MONTH);

/** What a bag's resin is still worth beside fresh resin. */
export interface BagWorth {
  /** Share of a fresh bag's capacity; `low` is the pessimistic one. */
  readonly share: ThreeOf<number>;
  /** Months in the factory's packing, and since it was opened. */
  readonly sealedMonths: ThreeOf<number>;
  readonly openMonths: number;
  /** Months sealed since it was bought. */
  readonly hereMonths: number;
  readonly sealedAs: Container;
  readonly closedAs: Container;
  /** Nobody knows when it was made: ask the seller. */
  readonly ageUnknown: boolean;
}

/**
 * Capacity that storage has left: `(1 - d)^months` in the factory's packing, times the same as it is closed since it was
 * opened; the loss counts twice in a vehicle or in the sun since it was bought.
 *
 * @param on ISO date on which it is used
 * @example bagWorth({ boughtOn: "2027-01-01", madeOn: "2027-01-01", openedOn: "2027-01-01", packing: "foil", closed: "rolled-or-zip", warm: true }, "2027-09-01").share.typical // 0.72
 */
export function bagWorth(
  bag: Pick<Bag, "madeOn" | "boughtOn" | "openedOn" | "packing" | "closed" | "warm">,
  on: string,
): BagWorth {
  const { madeOn, boughtOn, openedOn, packing, warm } = bag;
  const [sealedAs, closed] = [SEALED_AS[packing], closedAs(bag)];
  const opened = openedOn !== undefined && openedOn < on ? openedOn : on;
  const onShelf: ThreeOf<number> =
    madeOn === undefined
      ? SHELF_MONTHS
      : { low: months(madeOn, boughtOn), typical: months(madeOn, boughtOn), high: months(madeOn, boughtOn) };
  const here = months(boughtOn, opened);
  const open = openedOn === undefined ? 0 : months(opened, on);
  const left = (shelf: number) =>
    keptMonthly(sealedAs, false) ** shelf * keptMonthly(sealedAs, warm) ** here * keptMonthly(closed, warm) ** open;
  return {
    share: { low: left(onShelf.high), typical: left(onShelf.typical), high: left(onShelf.low) },
    sealedMonths: { low: onShelf.low + here, typical: onShelf.typical + here, high: onShelf.high + here },
    openMonths: open,
    hereMonths: here,
    sealedAs,
    closedAs: closed,
    ageUnknown: madeOn === undefined,
  };
}
