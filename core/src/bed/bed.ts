import { checkRanges, RANGES } from "../ranges";
import { finite, type Result } from "../result";
import { toKelvin } from "../units/constants";
import { DEFAULT_TEMPERATURE, type Warning } from "../water/water";

/** A packed bed of resin at work. */
export interface Bed {
  /** Resin, L. */
  readonly volume: number;
  /** Inner diameter, mm. */
  readonly diameter: number;
  /** L/min. */
  readonly flow: number;
  /** °C (default 15). */
  readonly temperature?: number;
  /** Kinetic health κ: virgin 1, regenerated 0.6, old or fouled 0.3 (default 1). */
  readonly health?: number;
  /** Coefficient of variation of the flow over the cross-section (default 0.05). */
  readonly spread?: number;
  /** Share of the water that goes round the beads (default 0). */
  readonly bypass?: number;
}

export interface BedAnswer {
  /** Empty-bed contact time, s. */
  readonly contactSeconds: number;
  readonly bedVolumesPerHour: number;
  /** m. */
  readonly depth: number;
  /** Superficial velocity, m/s. */
  readonly velocity: number;
  /** Through the beads alone, kPa. */
  readonly pressureLoss: number;
  readonly reynolds: number;
  readonly transferUnits: number;
  readonly warnings: readonly Warning[];
}

/** Planning assumptions for a mixed bed. */
export const BEAD_DIAMETER = 0.65e-3; // m
export const VOID_FRACTION = 0.38;
/** An ion meets only its own kind of bead in a mixed bed, every bead in a single one. */
export const OWN_BEADS = { mixed: 0.5, single: 1 } as const;
export const DEFAULT_SPREAD = 0.05;

const WATER_DENSITY = 998; // kg/m³
const DIFFUSIVITY_AT_25 = 1.6e-9; // m²/s
/** Bed volumes an hour within which mixed beds usually work. */
export const USUAL_BED_VOLUMES = { low: 8, high: 40 } as const;
const REYNOLDS_TRUSTED_TO = 55;

/** Dynamic viscosity of water, Pa·s, at a temperature in °C (Vogel's equation). @example viscosity(25) // 0.00089 */
export const viscosity = (celsius: number) => 2.414e-5 * 10 ** (247.8 / (toKelvin(celsius) - 140));

const diffusivity = (celsius: number) =>
  DIFFUSIVITY_AT_25 * (toKelvin(celsius) / 298.15) * (viscosity(25) / viscosity(celsius));

/** Pressure gradient, Pa/m (Ergun 1952). */
function pressureGradient(velocity: number, mu: number): number {
  const solid = 1 - VOID_FRACTION;
  const laminar = (150 * mu * velocity * solid ** 2) / (BEAD_DIAMETER ** 2 * VOID_FRACTION ** 3);
  const inertial = (1.75 * WATER_DENSITY * velocity ** 2 * solid) / (BEAD_DIAMETER * VOID_FRACTION ** 3);
  return laminar + inertial;
}

/** Film transfer coefficient, m/s (Wilson and Geankoplis 1966). */
function filmTransfer(reynolds: number, mu: number, celsius: number, health: number): number {
  const diffusion = diffusivity(celsius);
  const schmidt = mu / (WATER_DENSITY * diffusion);
  const sherwood = (1.09 / VOID_FRACTION) * Math.cbrt(reynolds * schmidt);
  return (health * sherwood * diffusion) / BEAD_DIAMETER;
}

function bedWarnings(bedVolumesPerHour: number, reynolds: number): Warning[] {
  const warnings: Warning[] = [];
  if (bedVolumesPerHour > USUAL_BED_VOLUMES.high) {
    warnings.push({
      code: "fast",
      message:
        "Over 40 bed volumes an hour: little contact time; a slower flow or a larger bed holds the limit longer.",
    });
  }
  if (bedVolumesPerHour < USUAL_BED_VOLUMES.low) {
    warnings.push({
      code: "slow",
      message: "Under 8 bed volumes an hour: plenty of contact; in a wide bed the water may find channels.",
    });
  }
  if (reynolds > REYNOLDS_TRUSTED_TO) {
    warnings.push({
      code: "reynolds",
      message: "Faster than the transfer formula was measured for (Reynolds over 55): take the result as rough.",
    });
  }
  return warnings;
}

/** Refuses a bed with a figure outside its range. */
export const checkBed = (bed: Bed): Result<true> =>
  checkRanges(bed, {
    volume: RANGES.volume,
    diameter: RANGES.diameter,
    flow: RANGES.flow,
    temperature: RANGES.temperature,
    health: RANGES.health,
    spread: RANGES.spread,
    bypass: RANGES.bypass,
  });

/**
 * Contact time, pressure loss (Ergun 1952) and transfer units `N = kf a V / Q` (Wilson and Geankoplis 1966) of a bed.
 *
 * @param ownBeads share of the beads that take a given ion: 0.5 in a mixed bed, 1 in a single one.
 * @example describeBed({ volume: 11.5, diameter: 180, flow: 3.2 }) // 216 s, 16.7 BV/h, 2.74 kPa, N 34.3
 */
export function describeBed(bed: Bed, ownBeads: number = OWN_BEADS.mixed): Result<BedAnswer> {
  const checked = checkBed(bed);
  if (!checked.ok) return checked;
  const { volume, diameter, flow, temperature = DEFAULT_TEMPERATURE, health = 1 } = bed;
  const area = (Math.PI / 4) * (diameter / 1000) ** 2;
  const depth = volume / 1000 / area;
  const cubicMetresPerSecond = flow / 60_000;
  const velocity = cubicMetresPerSecond / area;
  const mu = viscosity(temperature);
  const reynolds = (WATER_DENSITY * velocity * BEAD_DIAMETER) / mu;
  const beadArea = (6 * (1 - VOID_FRACTION) * ownBeads) / BEAD_DIAMETER;
  const transferUnits =
    (filmTransfer(reynolds, mu, temperature, health) * beadArea * (volume / 1000)) / cubicMetresPerSecond;
  const bedVolumesPerHour = (60 * flow) / volume;
  return finite({
    contactSeconds: (60 * volume) / flow,
    bedVolumesPerHour,
    depth,
    velocity,
    pressureLoss: (pressureGradient(velocity, mu) * depth) / 1000,
    reynolds,
    transferUnits,
    warnings: bedWarnings(bedVolumesPerHour, reynolds),
  });
}
