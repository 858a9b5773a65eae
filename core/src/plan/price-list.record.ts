import { currency, date, shape } from "../descriptor/field";
import { kind, type RecordOf } from "../descriptor/kind";
import { DEFAULT_PRICES, type Prices } from "./prices";

/** The crew's own prices; the newest list counts. */
export const PRICE_LIST = kind({
  name: "price-lists",
  table: "price_list",
  one: "price list",
  many: "price lists",
  fields: {
    setOn: date("The day of the prices", { label: "Set on" }),
    currency: currency(),
    prices: shape<Prices>("The prices", "prices"),
  },
  sample: { setOn: "2027-01-05", currency: "EUR", prices: DEFAULT_PRICES },
});

export interface PriceList extends RecordOf<typeof PRICE_LIST> {}
