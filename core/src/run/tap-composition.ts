import type { CurveWater } from "../front/product-curve";
import { CO2_MG_PER_MMOL } from "../water/carbon-dioxide";
import { behindMembrane, ionFeed, withCarbonDioxide } from "../water/ion-feed";
import { describeReport, waterOfReport } from "../water/report";
import { scaleFactor } from "../water/meter";
import { carbonDioxideOf, FIFTHS, USUAL_SILICA, usualAlkalinity, type CarbonDioxideKnown } from "../water/unmeasured";
import type { Tap } from "../feed/tap.record";
import type { Rig } from "../rig/rig.record";
import type { ReportValues, WaterReport } from "../water/water-report.record";
import { passage } from "./readings";

/** What is known of a tap's chemistry: its newest report, else its own pH, alkalinity and silica at its stated conductivity. */
export function tapValues(tap: Tap, reports: readonly WaterReport[] = []) {
  const newest = reports
    .filter((report) => report.tapId === tap.id)
    .sort((a, b) => (a.sampledOn < b.sampledOn ? -1 : 1));
  const { ph, alkalinity, silica, temperature } = tap;
  const own = { ph, alkalinity, silica, temperature, ec25: tap.typical / scaleFactor(tap.scale) };
  const known = Object.entries({ ...own, ...newest[newest.length - 1]?.values }).filter(
    ([, value]) => value !== undefined,
  );
  return Object.fromEntries(known) as ReportValues;
}

/** Free carbon dioxide behind a degassing barrel, mg/L: twice what air leaves; a planning assumption. */
const DEGASSED = 1.2;

/** A water at the resin whose composition is known, with what of it no meter shows, meq/L. */
export interface KnownComposition extends CurveWater {
  readonly co2: number;
  readonly silica: number;
}

/** The waters that may reach a rig's resin, all equally likely, by rising carbon dioxide: one where it is known, else five. */
export interface WatersAtResin {
  readonly waters: readonly KnownComposition[];
  readonly carbon: CarbonDioxideKnown;
}

/**
 * The water that reaches a rig's resin, ion by ion: known where its alkalinity is, by an analysis or alone; behind a membrane
 * always, for there what nobody measured of the carbonic acid is one of five values, and is often most of the load.
 *
 * @returns undefined where nobody knows the alkalinity and no membrane stands before, or the figures make no water
 */
export function watersAtResin(rig: Rig, tap: Tap, reports?: readonly WaterReport[]): WatersAtResin | undefined {
  const known = tapValues(tap, reports);
  const share = passage(rig);
  const { ec25 = 0 } = known;
  const carbon = carbonDioxideOf({ ...known, ec25 });
  const one = (values: ReportValues) => {
    const water = waterReaching(rig, values);
    return water && { waters: [water], carbon };
  };
  if (share === 1) return known.alkalinity === undefined ? undefined : one(known);
  const { ph: _said, ...rest } = known;
  const assumed = { alkalinity: usualAlkalinity(ec25), silica: USUAL_SILICA, ...rest };
  if (carbon.sd === 0) return one({ ...assumed, co2: carbon.median });
  const waters = FIFTHS.map((z) => waterReaching(rig, { ...assumed, co2: carbon.median * Math.exp(carbon.sd * z) }));
  return waters.every((water) => water !== undefined) ? { waters, carbon } : undefined;
}

/** The one water at the resin that is likeliest by what is known of the tap. @see watersAtResin */
export function compositionAtResin(rig: Rig, tap: Tap, reports?: readonly WaterReport[]): KnownComposition | undefined {
  const { waters = [] } = watersAtResin(rig, tap, reports) ?? {};
  return waters[waters.length >> 1];
}

function waterReaching(rig: Rig, values: ReportValues): KnownComposition | undefined {
  const described = describeReport(values);
  const water = ionFeed(waterOfReport(values), described.ok ? described.value.hidden.ammonia : 0);
  if (!described.ok || !water.ok) return undefined;
  const share = passage(rig);
  const isDegassed = rig.stages.some((stage) => stage.kind === "degasser");
  const passed = share < 1 ? behindMembrane(water.value, share) : water.value;
  const reaching = isDegassed ? withCarbonDioxide(passed, Math.min(passed.co2, DEGASSED / CO2_MG_PER_MMOL)) : passed;
  const { feed, co2 } = reaching;
  return { ions: feed, ec25: described.value.water.ec25 * share, co2, silica: feed.sio2 };
}
