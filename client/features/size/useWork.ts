import { clockNow } from "../../data/clock";
import { sizeOf } from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import { useSettings } from "../../data/settings";
import { inUse } from "../../data/in-use";
import { useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import type { Units } from "../../ui/format";
import type { TapWater } from "../water/tap-water";
import { useTapWaters } from "../water/useTapWaters";
import { usePrices, usePricesPending, type CrewPrices } from "./usePrices";
import { useUnitDraft } from "../../forms/useUnitDraft";
import { parseWork, startWork, watersOf, workInOtherUnits, type ParsedWork, type TypedWork } from "./work-as-typed";

const MOST_OWN = 20;

export interface Work {
  readonly typed: TypedWork;
  readonly patch: (part: Partial<TypedWork>) => void;
  readonly units: Units;
  readonly prices: CrewPrices;
  readonly waters: readonly TapWater[];
  /** The chosen tap; absent before there is one. */
  readonly water: TapWater | undefined;
  readonly parsed: ParsedWork | undefined;
  readonly pending: boolean;
}

/**
 * The work that every place of sizing speaks of: typed once, kept on this device. A vessel that serves another use is no
 * choice.
 */
export function useWork(): Work {
  const { units } = useSettings();
  const initial = useMemo(() => startWork(units), [units]);
  const [typed, patch] = useUnitDraft<TypedWork>("sizing", initial, workInOtherUnits);
  const { waters, pending: watersPending } = useTapWaters();
  const { records: vessels, pending: vesselsPending } = useRecords("vessels");
  const prices = usePrices();
  const pricesPending = usePricesPending();
  const { records: rigs, pending: rigsPending } = useRecords("rigs");
  const trains = useTrains();
  // An answer with half of the facts would jump when the others come.
  const pending = watersPending || vesselsPending || pricesPending || rigsPending;
  const own = useMemo(() => {
    const elsewhere = new Set(
      rigs
        .filter(({ use }) => use !== typed.use)
        .flatMap(({ id }) => trains.at(id, clockNow()).map(({ vesselId }) => vesselId)),
    );
    return inUse(vessels)
      .filter(({ id }) => !elsewhere.has(id))
      .slice(0, MOST_OWN)
      .map(sizeOf);
  }, [vessels, rigs, trains, typed.use]);
  const ownTap = rigs.find(({ use }) => use === typed.use)?.tapId;
  const at = (id: string | undefined) => waters.find(({ tap }) => tap.id === id);
  const water = pending ? undefined : (at(typed.tapId) ?? at(ownTap) ?? waters[0]);
  const parsed = useMemo(
    () =>
      water
        ? parseWork(typed, { waters: watersOf(water.tap, water.values), prices: prices.prices, own }, units)
        : undefined,
    [typed, water, prices.prices, own, units],
  );
  return { typed, patch, units, prices, waters, water, parsed, pending };
}
