import type { Bag, BagInStock, Charge, Grade, Standing } from "@winter-bead/core";
import { inOrderOfUse, refillFrom, storedAs, worthOf, type Portion } from "@winter-bead/core/src/stock/stock";
import { bodyOf, changed, type Step } from "../../data/acts";
import type { Kept } from "../../data/api";
import type { Complaint } from "../../forms/resolve";
import { internalNumber, numberText, shownNumber, type Texts } from "../../forms/texts";
import { shown, typedNumber, type Units } from "../../ui/format";

/** Name of the box of a bag, beside the form's own fields. */
export const boxOf = (bagId: string) => `bag_${bagId}`;

/** What may go into a vessel: loose resin of a grade, into a housing a ready-filled cartridge too; the first to be used on top. */
export const bagsFor = (stock: readonly BagInStock[], grade: Grade): readonly BagInStock[] =>
  inOrderOfUse(stock).filter(({ bag }) => bag.grade === grade);

/** The boxes as a charge has them. */
export const keptBoxes = (from: Charge["from"], units: Units): Texts => ({
  ...Object.fromEntries(
    (from ?? []).map(({ bagId, litres }) => [boxOf(bagId), numberText(shownNumber("resinVolume", litres, units))]),
  ),
  rightBags: from ? asText(from) : "",
  fromBags: from ? "typed" : "none",
});

/** The boxes as they are proposed for a fill, L. */
export function proposedBoxes(stock: readonly BagInStock[], grade: Grade, litres: number, units: Units): Texts {
  const { portions } = refillFrom(stock, grade, litres);
  const texts = Object.fromEntries(
    stock.map(({ bag }) => {
      const portion = portions.find(({ bagId }) => bagId === bag.id);
      const text = portion ? numberText(Number(shownNumber("resinVolume", portion.litres, units).toPrecision(3))) : "";
      return [boxOf(bag.id), text];
    }),
  );
  return texts;
}

/** How a charge's resin leaves the stock: as proposed, as typed, or not at all. */
export const FROM_BAGS = [
  { value: "proposed", label: "As proposed" },
  { value: "typed", label: "Other amounts" },
  { value: "none", label: "Not from the stock" },
] as const;

/** What the form says was taken from which bag. */
export function portionsIn(
  beside: Texts,
  stock: readonly BagInStock[],
  { grade, resinLitres }: Partial<Pick<Charge, "grade" | "resinLitres">>,
  units: Units,
): readonly Portion[] {
  if (grade === undefined || beside["fromBags"] === "none") return [];
  if (beside["fromBags"] === "proposed")
    return Number.isFinite(resinLitres) ? refillFrom(stock, grade, resinLitres!).portions : [];
  return bagsFor(stock, grade).flatMap(({ bag }) => {
    const typed = typedNumber(String(beside[boxOf(bag.id)] ?? ""));
    return typed === undefined || typed <= 0
      ? []
      : [{ bagId: bag.id, litres: internalNumber("resinVolume", typed, units) }];
  });
}

const named = (stock: readonly BagInStock[], id: string) => stock.find(({ bag }) => bag.id === id)!;
/** Rounding in the display may exceed what is there by this share. */
const ROUNDING = 1.01;

/** Portions as one text: what was asked about and is right. */
export const asText = (portions: readonly Portion[]) => JSON.stringify(portions);

/** More than a bag holds is asked about, more than goes in is refused: a bag never falls below nothing unnoticed. */
export function bagComplaints(
  portions: readonly Portion[],
  stock: readonly BagInStock[],
  { resinLitres }: Pick<Charge, "resinLitres">,
  rightBags: string,
  units: Units,
): readonly Complaint[] {
  const words = (litres: number) => {
    const { text, unit } = shown("resinVolume", litres, units);
    return `${text} ${unit}`;
  };
  const all = portions.reduce((sum, { litres }) => sum + litres, 0);
  if (portions.length > 0 && all > ROUNDING * resinLitres)
    return [
      {
        path: `beside.${boxOf(portions[0]!.bagId)}`,
        message: `The bags give ${words(all)}, and ${words(resinLitres)} go in: correct one of them.`,
      },
    ];
  if (rightBags === asText(portions)) return [];
  const over = portions.find(({ bagId, litres }) => litres > ROUNDING * Math.max(0, named(stock, bagId).left));
  if (!over) return [];
  const { bag, left } = named(stock, over.bagId);
  return [
    {
      path: `beside.${boxOf(over.bagId)}`,
      message: `By the count ${bag.name} holds ${words(Math.max(0, left))}. Take less, or say that it is right: then it is short by the rest until you count it.`,
    },
  ];
}

/** A corrected charge: where nothing was changed about its bags, what was found out when it was filled stands. */
export const withBagsCorrected = (
  charge: Partial<Charge>,
  before: Charge,
  portions: readonly Portion[],
  stock: readonly BagInStock[],
): Partial<Charge> => {
  const isSame =
    portions.length === (before.from?.length ?? 0) &&
    portions.every(({ bagId, litres }) =>
      before.from?.some((each) => each.bagId === bagId && Math.abs(each.litres - litres) < 1e-4),
    );
  if (isSame) return charge;
  const { from: _, ...rest } = charge;
  return withBags(rest, portions, stock);
};

/** A charge with where its resin came from, and the age of the mixture. */
export const withBags = (
  charge: Partial<Charge>,
  portions: readonly Portion[],
  stock: readonly BagInStock[],
): Partial<Charge> => {
  if (portions.length === 0) return charge;
  const { stored: _, ...rest } = charge;
  const stored = storedAs(portions, stock);
  return { ...rest, from: portions, ...(stored ? { stored } : {}) };
};

/** Sealed bags are open from the day they were used. */
export const openedSteps = (portions: readonly Portion[], bags: readonly Kept<"bags">[], on: string): readonly Step[] =>
  portions.flatMap(({ bagId }): Step[] => {
    const bag = bags.find(({ id }) => id === bagId);
    if (!bag || bag.openedOn !== undefined) return [];
    const body: Omit<Bag, "id"> = { ...bodyOf(bag), openedOn: on, closed: "rolled-or-zip" };
    return [changed("bags", bag, body)];
  });

/** Bags that only this charge had opened are sealed again: the refill never was. */
export const sealedSteps = (
  charge: Charge,
  charges: readonly Charge[],
  bags: readonly Kept<"bags">[],
  on: string,
): readonly Step[] =>
  (charge.from ?? []).flatMap(({ bagId }): Step[] => {
    const bag = bags.find(({ id }) => id === bagId);
    const isUsed = charges.some(({ id, from }) => id !== charge.id && from?.some((each) => each.bagId === bagId));
    if (!bag || bag.openedOn !== on || isUsed) return [];
    const { openedOn: _, closed: _closed, ...sealed } = bodyOf(bag);
    return [changed("bags", bag, sealed)];
  });

/** What a mixture means for this refill. */
export interface MixtureMeans {
  readonly worth: number;
  /** L to the limit, with fresh resin and with this; absent where nothing is known of the rig yet. */
  readonly litres?: { readonly fresh: number; readonly now: number };
  /** Money of resin that has aged away. */
  readonly lost: number;
}

/** @param standing the rig's last one: what its charges hold, and its feed */
export function mixtureMeans(
  portions: readonly Portion[],
  stock: readonly BagInStock[],
  { resinLitres }: Pick<Charge, "resinLitres">,
  pricePerLitre: number,
  standing: Standing | undefined,
): MixtureMeans {
  const worth = worthOf(portions, stock);
  const fresh =
    standing && standing.feed.typical > 0
      ? (1000 * resinLitres * standing.ownCapacity.median * standing.limitThroughput * 100) / standing.feed.typical
      : undefined;
  return {
    worth,
    ...(fresh === undefined ? {} : { litres: { fresh, now: fresh * worth } }),
    lost: portions.reduce((sum, { litres }) => sum + litres, 0) * pricePerLitre * (1 - worth),
  };
}
