import type { Id } from "../descriptor/identity";
import type { Grade } from "../resin/capacity";
import type { Charge } from "../resin/charge.record";
import { keptMonthly } from "../resin/storage";
import type { Vessel } from "../vessel/vessel.record";
import type { Bag, BagForm } from "./bag.record";
import { bagWorth, type BagWorth } from "./bag-worth";
import type { Disposal } from "./disposal.record";

export interface StockFacts {
  readonly bags: readonly Bag[];
  readonly charges: readonly Charge[];
  /** ISO date of today where the crew works. */
  readonly today: string;
  /** The ISO date of an instant where the crew works. */
  readonly dateOf: (milliseconds: number) => string;
}

/** What went out of a bag, with the charge that took it. */
export interface Taken {
  readonly charge: Charge;
  readonly litres: number;
}

/** A bag as it stands. */
export interface BagInStock {
  readonly bag: Bag;
  /** L; below 0 where more was taken than it held: the figures do not add up. */
  readonly left: number;
  readonly taken: readonly Taken[];
  readonly worth: BagWorth;
}

const filledOn = ({ dateOf }: Pick<StockFacts, "dateOf">, charge: Charge) => dateOf(Date.parse(charge.filledAt));

/** Everything that went from a bag into vessels, oldest first. */
const takenFrom = (bag: Bag, charges: readonly Charge[]): readonly Taken[] =>
  charges
    .flatMap((charge) => {
      const litres = (charge.from ?? []).reduce((sum, each) => sum + (each.bagId === bag.id ? each.litres : 0), 0);
      return litres > 0 ? [{ charge, litres }] : [];
    })
    .sort((a, b) => Date.parse(a.charge.filledAt) - Date.parse(b.charge.filledAt));

/** What a bag still holds, L: as bought or as last counted, less what went into vessels since. */
export function bagLeft(bag: Bag, facts: Pick<StockFacts, "charges" | "dateOf">): number {
  if (bag.gone) return 0;
  const since = bag.counted?.on;
  const used = takenFrom(bag, facts.charges)
    .filter(({ charge }) => since === undefined || filledOn(facts, charge) > since)
    .reduce((sum, { litres }) => sum + litres, 0);
  return leftAfter(bag, bag.counted?.litres ?? bag.litres, used);
}

/** L left of what stood there once something was taken out: a ready-filled cartridge goes as a whole. */
export function leftAfter({ form }: Pick<Bag, "form">, stood: number, taken: number): number {
  const left = stood - taken;
  return form === "cartridge" && taken > 0 ? Math.min(0, left) : left;
}

/** Litres below which a bag counts as empty. */
const EMPTY = 0.05;

/** Every bag as it stands today. */
export const stockOf = (facts: StockFacts): readonly BagInStock[] =>
  facts.bags.map((bag) => ({
    bag,
    left: bagLeft(bag, facts),
    taken: takenFrom(bag, facts.charges),
    worth: bagWorth(bag, facts.today),
  }));

export const isEmpty = ({ left }: Pick<BagInStock, "left">) => left < EMPTY;

/**
 * Which bag to open first: the open ones before the sealed ones, since they lose most; of each the one worth least, which is
 * the oldest.
 */
export function inOrderOfUse(stock: readonly BagInStock[]): readonly BagInStock[] {
  const rank = ({ bag, worth }: BagInStock) => (bag.openedOn === undefined ? 1 : 0) + 0.5 * worth.share.typical;
  return stock.filter((each) => !isEmpty(each)).sort((a, b) => rank(a) - rank(b));
}

/** Below this share of a fresh bag a refill is hardly worth its work: a planning assumption. */
export const TOO_WEAK = 0.6;

/** What a refill takes from one bag. */
export interface Portion {
  readonly bagId: Id;
  readonly litres: number;
}

/** Resin for one refill, out of what is in stock. */
export interface RefillFrom {
  readonly portions: readonly Portion[];
  /** Litres that no bag holds. */
  readonly missing: number;
}

/** What may go into a vessel: ready-filled cartridges fit into housings alone. */
export const fitting = (stock: readonly BagInStock[], { kind }: Pick<Vessel, "kind">): readonly BagInStock[] =>
  kind === "cartridge" ? stock : stock.filter(({ bag }) => bag.form === "loose");

/** What a cartridge may hold beside what its housing takes, to be taken for its size: a planning assumption. */
const SAME_SIZE = { from: 0.8, to: 1.15 };

/** Whether a ready-filled cartridge is one for a vessel that takes so many litres. */
export const isItsCartridge = ({ form, litres }: Pick<Bag, "form" | "litres">, fill: number): boolean =>
  form === "cartridge" && litres >= SAME_SIZE.from * fill && litres <= SAME_SIZE.to * fill;

/**
 * What a refill takes: a ready-filled cartridge of its size as a whole, else loose resin, the first to be used first.
 *
 * @param stock what may go into the vessel @see fitting
 * @param litres what the vessel takes
 */
export function refillFrom(stock: readonly BagInStock[], grade: Grade, litres: number): RefillFrom {
  const usable = inOrderOfUse(stock).filter(({ bag, worth }) => bag.grade === grade && worth.share.typical >= TOO_WEAK);
  const whole = usable.find(({ bag }) => isItsCartridge(bag, litres));
  if (whole) return { portions: [{ bagId: whole.bag.id, litres: Math.min(whole.left, litres) }], missing: 0 };
  const portions: Portion[] = [];
  let missing = litres;
  for (const { bag, left } of usable) {
    if (missing <= EMPTY) break;
    if (bag.form !== "loose") continue;
    const take = Math.min(left, missing);
    portions.push({ bagId: bag.id, litres: take });
    missing -= take;
  }
  return { portions, missing: missing <= EMPTY ? 0 : missing };
}

/** In what a crew buys resin for a vessel: as it last did. */
export function boughtAs(stock: readonly BagInStock[], grade: Grade, litres: number): BagForm {
  const last = stock
    .filter(({ bag }) => bag.grade === grade && (bag.form === "loose" || isItsCartridge(bag, litres)))
    .reduce<Bag | undefined>(
      (newest, { bag }) => (newest && newest.boughtOn >= bag.boughtOn ? newest : bag),
      undefined,
    );
  return last?.form ?? "loose";
}

/** Capacity of what several bags give together, beside fresh resin; litres that no bag tells of count as fresh. */
export function worthOf(portions: readonly Portion[], stock: readonly BagInStock[]): number {
  const byId = new Map(stock.map((each) => [each.bag.id, each]));
  const all = portions.reduce((sum, { litres }) => sum + litres, 0);
  if (!(all > 0)) return 1;
  return (
    portions.reduce((sum, { bagId, litres }) => sum + litres * (byId.get(bagId)?.worth.share.typical ?? 1), 0) / all
  );
}

/**
 * How a charge says the age of a mixture: the bag of most litres, with the months that its worth stands for.
 * @returns undefined where the resin is as good as fresh
 */
export function storedAs(portions: readonly Portion[], stock: readonly BagInStock[]): Charge["stored"] | undefined {
  const worth = worthOf(portions, stock);
  const most = [...portions].sort((a, b) => b.litres - a.litres)[0];
  const bag = stock.find((each) => each.bag.id === most?.bagId);
  if (!bag || worth > 0.9995) return undefined;
  const container = bag.bag.openedOn === undefined ? bag.worth.sealedAs : bag.worth.closedAs;
  const { warm } = bag.bag;
  return { container, months: Math.log(worth) / Math.log(keptMonthly(container, warm)), warm };
}

/**
 * Spent resin that waits to be taken away, L: what left the vessels since stock is kept, less what was taken away.
 * @param facts bags, charges and days; stock is kept since the first bag was bought
 */
export function spentWaiting(facts: StockFacts, disposals: readonly Disposal[]): number {
  const since = [...facts.bags.map(({ boughtOn }) => boughtOn), ...disposals.map(({ on }) => on)].sort()[0];
  if (since === undefined) return 0;
  const spent = facts.charges
    .filter(({ ended }) => ended !== undefined && facts.dateOf(Date.parse(ended.at)) >= since)
    .reduce((sum, { resinLitres }) => sum + resinLitres, 0);
  return Math.max(0, spent - disposals.reduce((sum, { litres }) => sum + litres, 0));
}
