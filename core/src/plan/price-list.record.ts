import { currency, date } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { DEFAULT_PRICES, PRICES } from "./prices";

/** The crew's own prices; the newest list counts. */
export const PRICE_LIST = kind({
  name: "price-lists",
  table: "price_list",
  one: "price list",
  many: "price lists",
  fields: {
    setOn: date("The day of the prices", { label: "Set on" }),
    currency: currency(),
    prices: PRICES,
  },
  sample: { setOn: "2027-01-05", currency: "EUR", prices: DEFAULT_PRICES },
});

export interface PriceList extends RecordOf<typeof PRICE_LIST> {}
