import type { CrewRecords, Order } from "@winter-bead/core";

/** Works out what a crew has to order until when, where it holds nobody up. */
export type WorkOut = (records: CrewRecords, now: number, timeZone: string) => Promise<readonly Order[]>;

export interface Ordered {
  readonly orders: readonly Order[];
  /** Why they are not the newest, or not known at all. */
  readonly trouble?: string;
}

/** What a forecast rests on: while that stands, it is not made again. */
export interface Basis {
  /** The crew's last number: it changes with whatever is kept. */
  readonly seq: string;
  /** ISO date of the crew's own today. */
  readonly today: string;
}

/**
 * What a crew has to order, for all its mails: worked out once for what is kept and the day, and where that fails the last
 * answer stands.
 */
export class OrderForecast {
  private readonly known = new Map<string, { readonly basis: Basis; readonly orders: readonly Order[] }>();

  constructor(private readonly workOut: WorkOut) {}

  async of(crewId: string, basis: Basis, records: CrewRecords, now: number, timeZone: string): Promise<Ordered> {
    const last = this.known.get(crewId);
    if (last && last.basis.seq === basis.seq && last.basis.today === basis.today) return { orders: last.orders };
    try {
      const orders = await this.workOut(records, now, timeZone);
      this.known.set(crewId, { basis, orders });
      return { orders };
    } catch (error) {
      const why = `What has to be ordered could not be worked out for the mail (${(error as Error).message || (error as Error).name}).`;
      return last
        ? { orders: last.orders, trouble: `${why} Order days are mailed as they were known on ${last.basis.today}.` }
        : { orders: [], trouble: `${why} Order days are not mailed until it can; they stand in Weeks.` };
    }
  }
}
