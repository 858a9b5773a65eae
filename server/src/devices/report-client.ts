import { supplierReport, supplierZones, type SupplierReport, type SupplierZone } from "@winter-bead/contract";
import type { z } from "zod";

/** Why the supplier's service gave nothing, in words for the technician. */
export class SupplierTrouble extends Error {
  constructor(
    readonly status: 404 | 502 | 504,
    message: string,
  ) {
    super(message);
  }
}

const PATIENCE = 4_000;
const LARGEST_ANSWER = 2 ** 20;
const TYPE_BY_HAND = "Type the report by hand, or try again later; nothing you entered is lost.";

/** Asks a water supplier's report service, and trusts nothing it says until it was checked. */
export class ReportClient {
  /** @param address of the service, which may still be starting */
  constructor(private readonly address: Promise<string>) {}

  zones(): Promise<SupplierZone[]> {
    return this.ask("/zones", supplierZones);
  }

  report(zone: string, on: string | undefined): Promise<SupplierReport> {
    const query = on === undefined ? "" : `?on=${encodeURIComponent(on)}`;
    return this.ask(`/zones/${encodeURIComponent(zone)}/report${query}`, supplierReport);
  }

  private async ask<S extends z.ZodType>(path: string, schema: S): Promise<z.infer<S>> {
    const text = await this.fetchText(path);
    let body: unknown;
    try {
      body = JSON.parse(text);
    } catch {
      throw new SupplierTrouble(502, `The supplier's service answered something that is no report. ${TYPE_BY_HAND}`);
    }
    const checked = schema.safeParse(body);
    if (checked.success) return checked.data;
    const where = checked.error.issues[0]?.path.join(" ") ?? "";
    throw new SupplierTrouble(
      502,
      `The supplier's report is not complete${where ? ` (${where})` : ""}. ${TYPE_BY_HAND}`,
    );
  }

  private async fetchText(path: string): Promise<string> {
    try {
      const signal = AbortSignal.timeout(PATIENCE);
      const response = await fetch(`${await this.address}${path}`, { signal });
      if (response.status === 404)
        throw new SupplierTrouble(404, "The supplier's service knows no such zone or date; choose another.");
      if (!response.ok)
        throw new SupplierTrouble(502, `The supplier's service has trouble (${response.status}). ${TYPE_BY_HAND}`);
      const text = await response.text();
      if (text.length > LARGEST_ANSWER)
        throw new SupplierTrouble(502, `The supplier's service answered far too much. ${TYPE_BY_HAND}`);
      return text;
    } catch (error) {
      if (error instanceof SupplierTrouble) throw error;
      const late = (error as Error).name === "TimeoutError";
      throw new SupplierTrouble(
        late ? 504 : 502,
        late
          ? `The supplier's service takes too long. ${TYPE_BY_HAND}`
          : `The supplier's service is out of order. ${TYPE_BY_HAND}`,
      );
    }
  }
}
