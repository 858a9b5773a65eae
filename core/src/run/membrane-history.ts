import type { Id } from "../descriptor/identity";
import type { MembraneCheck } from "../membrane/membrane-check.record";
import { membraneState, type MembraneFigures, type MembraneState } from "../membrane/trend";
import type { Meter } from "../water/meter.record";
import { recordedEc25 } from "./readings";

/** One check with what follows from it. */
export interface MembranePoint {
  readonly check: MembraneCheck;
  readonly at: number;
  readonly figures: MembraneFigures;
  readonly state: MembraneState;
}

/** A check's figures with its readings as conductivity; undefined where not all of them were read, or the scale is not known. */
export function figuresOf(
  check: Omit<MembraneCheck, "id">,
  meters: ReadonlyMap<Id, Meter>,
): MembraneFigures | undefined {
  const { meterId, scale, temperature } = check;
  const asReading = (value: number | undefined) =>
    value === undefined ? undefined : recordedEc25({ meterId, scale, value, temperature }, meters);
  const [feedEc25, productEc25] = [asReading(check.feed), asReading(check.product)];
  const { pressure, permeatePressure, productFlow, wasteFlow } = check;
  if (feedEc25 === undefined || productEc25 === undefined || temperature === undefined) return undefined;
  if (pressure === undefined || productFlow === undefined || wasteFlow === undefined) return undefined;
  return { feedEc25, productEc25, temperature, pressure, permeatePressure, productFlow, wasteFlow };
}

export interface MembraneTrend {
  readonly points: readonly MembranePoint[];
  /** Checks of which not all was read: kept, but no state follows from them. */
  readonly partial: readonly MembraneCheck[];
  /** The last clean baseline before the newest check. */
  readonly clean: MembraneFigures | undefined;
}

/** A rig's checks in order, each against the clean baseline before it. */
export function membraneTrend(checks: readonly MembraneCheck[], meters: ReadonlyMap<Id, Meter>): MembraneTrend {
  const points: MembranePoint[] = [];
  const partial: MembraneCheck[] = [];
  let clean: MembraneFigures | undefined;
  for (const check of [...checks].sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const figures = figuresOf(check, meters);
    if (!figures) {
      partial.push(check);
      continue;
    }
    if (check.clean) clean = figures;
    const state = membraneState(figures, clean);
    if (state.ok) points.push({ check, at: Date.parse(check.at), figures, state: state.value });
  }
  return { points, partial, clean };
}
