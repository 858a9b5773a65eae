import { dayMonthYear, noonOf } from "../../ui/dates";
import { dayOf } from "../../ui/format";
import type { PriceWords, Prices } from "@winter-bead/core";
import { DEFAULT_PRICES, DEFAULT_PRICES_DATE } from "@winter-bead/core/src/sizing";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { useRecords } from "../../data/store";

/** The currency until the user names another. */
export const DEFAULT_CURRENCY = "EUR";

export interface CrewPrices extends PriceWords {
  readonly prices: Prices;
  /** The crew's own list; absent while the dated defaults stand in. */
  readonly list: Kept<"price-lists"> | undefined;
}

/** Until this is over nobody knows whether the crew has prices of its own. */
export const usePricesPending = (): boolean => useRecords("price-lists").pending;

/** The crew's prices, else the dated defaults, which are assumptions and say so. */
export function usePrices(): CrewPrices {
  const { records } = useRecords("price-lists");
  return useMemo(() => {
    const list = [...records].sort((a, b) => (a.setOn < b.setOn ? 1 : -1))[0];
    return list
      ? {
          prices: list.prices,
          currency: list.currency,
          from: `your prices of ${dayOf(list.setOn)}`,
          assumed: false,
          list,
        }
      : {
          prices: DEFAULT_PRICES,
          currency: DEFAULT_CURRENCY,
          from: `assumption of ${dayMonthYear(noonOf(DEFAULT_PRICES_DATE))}`,
          assumed: true,
          list: undefined,
        };
  }, [records]);
}
