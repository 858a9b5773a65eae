import type { Problem, SupplierReport, SupplierZone } from "@winter-bead/contract";

/** Why there is no report from the supplier, in words for the technician. */
export class NoReport extends Error {}

const OFFLINE = "There is no signal just now. Type the report by hand, or fetch it later; nothing you entered is lost.";

async function ask<T>(path: string, signal: AbortSignal | undefined): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/v1/supplier${path}`, signal ? { signal } : {});
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new NoReport(OFFLINE);
  }
  if (!/json/.test(response.headers.get("content-type") ?? "")) throw new NoReport(OFFLINE);
  const body: unknown = await response.json();
  if (!response.ok) throw new NoReport((body as Problem).detail ?? (body as Problem).title);
  return body as T;
}

/** Zones of the water supplier's report service. */
export const fetchZones = async (signal?: AbortSignal): Promise<readonly SupplierZone[]> =>
  (await ask<{ items: SupplierZone[] }>("/zones", signal)).items;

/** A zone's report on a date. */
export const fetchReport = (zone: string, on: string, signal?: AbortSignal): Promise<SupplierReport> =>
  ask(`/zones/${encodeURIComponent(zone)}/report?on=${on}`, signal);
