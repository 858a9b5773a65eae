import type { Id } from "../descriptor/identity";
import { BEFORE_ASSUMPTIONS } from "../plan/before";
import { WEEKS_A_YEAR } from "../plan/demand";
import type { Prices } from "../plan/prices";
import type { Rig, Stage } from "../rig/rig.record";
import { USUAL_ORDER, usualPlace } from "../rig/train-edits";
import { xQuantile } from "../belief/grids";
import { hydraulicsOf, scaleOfCharge } from "./hydraulics";
import { passage } from "./readings";
import type { StandingInput } from "./standing";
import { tapValues } from "./tap-composition";
import type { WorkedBed } from "./train";

type StageKind = Stage["kind"];

/** What a stage before the resin does at this tap, with what it costs to leave it out, or to add it. */
export interface StageAtTap {
  /** Absent of one that is not there. */
  readonly stageId?: Id;
  readonly kind: Exclude<StageKind, "resin">;
  /** µS/cm at the resin, with it and without it. */
  readonly feed: { readonly with: number; readonly without: number };
  /** L of a fresh charge to its limit, with it and without it. */
  readonly litres: { readonly with: number; readonly without: number };
  /** Charges of a year, at the usual water. */
  readonly charges: { readonly with: number; readonly without: number };
  /** Money of a year: the resin and work it saves, and what it costs itself. */
  readonly saves: number;
  readonly costs: number;
  /** g of chlorine that reach it in a year; absent where nobody knows the tap's, or nothing takes it. */
  readonly chlorineAYear?: number;
  /** Months that its capacity lasts against that. */
  readonly chlorineMonths?: number;
}

/** Litres wasted for a litre made, as the planner assumes it. */
const WASTED = (1 - BEFORE_ASSUMPTIONS.recovery) / BEFORE_ASSUMPTIONS.recovery;
const LITRES_PER_CUBIC_METRE = 1000;

/** What a stage costs in a year, money: the price list's figures, spread over its life, and the water it wastes. */
function costsOf(kind: StageAtTap["kind"], prices: Prices, isThere: boolean, yearly: number): number {
  const { membrane, membraneYears, membraneUnit, years, prefiltersPerYear, aerator, water, waste } = prices;
  if (kind === "membrane")
    return (
      membrane / membraneYears +
      (yearly * WASTED * (water + waste)) / LITRES_PER_CUBIC_METRE +
      (isThere ? 0 : membraneUnit / years + prefiltersPerYear)
    );
  if (kind === "degasser") return isThere ? 0 : aerator / years;
  return prefiltersPerYear / 2;
}

/** Where nothing else is known of a stage that would be added: planning assumptions. */
const ADDED_REJECTION = 0.95;

const without = (rig: Rig, id: Id): Rig => ({ ...rig, stages: rig.stages.filter((stage) => stage.id !== id) });

function added(rig: Rig, kind: StageAtTap["kind"]): Rig {
  const at = usualPlace(rig.stages, kind);
  const stage = (kind === "membrane" ? { id: kind, kind, rejection: ADDED_REJECTION } : { id: kind, kind }) as Stage;
  return { ...rig, stages: [...rig.stages.slice(0, at), stage, ...rig.stages.slice(at)] };
}

const MONTHS_A_YEAR = 12;
const MG_PER_GRAM = 1000;

/** What the charge that stands there would hold filled anew, with a rig as it is or as it might be. */
class FreshHere {
  private readonly tapEc25: number;
  private readonly strength: number;

  constructor(
    private readonly input: StandingInput,
    private readonly bed: WorkedBed,
  ) {
    const own = passage(input.rig);
    this.tapEc25 = bed.worked.standing.feed.typical / own;
    this.strength = Math.exp(xQuantile(bed.owner.capacity, 0.5));
  }

  feed(rig: Rig): number {
    return this.tapEc25 * passage(rig);
  }

  litres(rig: Rig): number {
    const { charge } = this.bed.worked.standing;
    const { vessel } = this.bed;
    const hydraulics = hydraulicsOf(charge, { ...this.input, rig, vessel });
    if (!hydraulics.ok) return 0;
    const feed = this.feed(rig);
    return (100 * this.strength * Math.exp(scaleOfCharge(vessel, hydraulics.value, feed).logPromised)) / feed;
  }
}

/**
 * What each stage before the resin does at this tap and what leaving it out would cost in a year; then what the next one
 * would do: a membrane, and air where carbon dioxide is known.
 *
 * @param bed the vessel that is filled most often: of a train its lead
 * @example stagesAtTap(input, lead, prices)[0] // { kind: "membrane", feed: { with: 14, without: 400 }, saves: 610, costs: 23, … }
 */
export function stagesAtTap(input: StandingInput, bed: WorkedBed, prices: Prices): readonly StageAtTap[] {
  const { rig, taps, reports } = input;
  const fresh = new FreshHere(input, bed);
  const yearly = WEEKS_A_YEAR * bed.worked.standing.use.weekdays.reduce((sum, each) => sum + each, 0);
  const { charge } = bed.worked.standing;
  const perCharge = charge.resinLitres * prices.resin[charge.grade] + (prices.minutesPerRefill * prices.wage) / 60;
  const tap = taps.get(rig.tapId);
  const chlorine = tap ? tapValues(tap, reports).chloramine : undefined;
  const of = (kind: StageAtTap["kind"], stage: Stage | undefined, here: Rig, away: Rig): StageAtTap => {
    const litres = { with: fresh.litres(here), without: fresh.litres(away) };
    const charges = { with: yearly / litres.with, without: yearly / litres.without };
    const grams = kind === "carbon" && chlorine !== undefined ? (chlorine * yearly) / MG_PER_GRAM : undefined;
    const takes = stage?.kind === "carbon" ? stage.chlorineGrams : undefined;
    return {
      ...(stage ? { stageId: stage.id } : {}),
      kind,
      feed: { with: fresh.feed(here), without: fresh.feed(away) },
      litres,
      charges,
      saves: (charges.without - charges.with) * perCharge,
      costs: costsOf(kind, prices, stage !== undefined, yearly),
      ...(grams === undefined ? {} : { chlorineAYear: grams }),
      ...(grams !== undefined && grams > 0 && takes !== undefined
        ? { chlorineMonths: (MONTHS_A_YEAR * takes) / grams }
        : {}),
    };
  };
  const there = rig.stages.flatMap((stage): StageAtTap[] =>
    stage.kind === "resin" ? [] : [of(stage.kind, stage, rig, without(rig, stage.id))],
  );
  const missing = USUAL_ORDER.filter(
    (kind) => kind !== "resin" && !rig.stages.some((stage) => stage.kind === kind),
  ) as readonly StageAtTap["kind"][];
  return [...there, ...missing.map((kind) => of(kind, undefined, added(rig, kind), rig))];
}
