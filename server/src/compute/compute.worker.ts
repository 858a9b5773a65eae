import { COMPUTE, type ComputeName, type ComputeOutcome } from "@winter-bead/contract";
import { datesIn, unwrap, type CrewRecords, type Order } from "@winter-bead/core";
import { weeksAhead } from "@winter-bead/core/src/weeks";

/** What a crew has to order until when. */
export interface OrdersQuestion {
  readonly records: CrewRecords;
  readonly now: number;
  readonly timeZone: string;
}

const orders = ({ records, now, timeZone }: OrdersQuestion): readonly Order[] =>
  weeksAhead(records, { now, dateOf: unwrap(datesIn(timeZone)) }).orders;

export type Work =
  { readonly name: ComputeName; readonly body: unknown } | { readonly name: "orders"; readonly body: OrdersQuestion };

/** One calculation in a thread of its own. */
export default ({ name, body }: Work): ComputeOutcome | readonly Order[] =>
  name === "orders" ? orders(body as OrdersQuestion) : COMPUTE[name].compute(body);
