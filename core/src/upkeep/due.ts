import { addDays, DAYS_IN_MONTH } from "../dates/calendar";
import type { Id } from "../descriptor/identity";
import type { Charge } from "../resin/charge.record";
import type { Rig } from "../rig/rig.record";
import type { Meter } from "../water/meter.record";
import type { Part, Service } from "./service.record";

/** Months after which a part is due, where its data sheet says nothing: planning assumptions. */
export const USUAL_MONTHS: Readonly<Record<Part, number>> = {
  sediment: 6,
  carbon: 6,
  membrane: 36,
  seals: 12,
  strainer: 3,
};
/** Months between two checks of a meter against a standard: a planning assumption. */
export const METER_MONTHS = 6;

/** Why something is due. */
export type DueBecause = "months" | "chlorine" | "passed" | "pressure" | "rejection" | "unknown";

/** Upkeep that comes due. */
export interface Due {
  readonly task: Part | "meter";
  readonly rigId?: Id;
  readonly meterId?: Id;
  /** ISO date; absent where nobody noted when it was last done. */
  readonly on?: string;
  /** ISO date of the last time. */
  readonly last?: string;
  readonly because: DueBecause;
  /** Months that it runs, or the share of its chlorine that is used. */
  readonly months: number;
  readonly usedShare?: number;
  /** kPa lost across it, and on which day, where gauges told it. */
  readonly drop?: PressureDrop;
}

/** What gauges before and behind a sediment cartridge told. */
export interface PressureDrop {
  /** ISO date. */
  readonly on: string;
  readonly kPa: number;
}

/** kPa lost across a sediment cartridge from which it is changed, and at which it surely is: planning assumptions. */
export const FULL_DROP = { from: 50, to: 100 };

/** What was seen of a rig that makes a part due, whatever the months say. */
export interface Seen {
  /** mg/L of chlorine or chloramine at the tap. */
  readonly chlorine?: number;
  /** L that went through the rig since a day, and in a usual week. */
  readonly litresSince: (on: string) => number;
  readonly litresPerWeek: number;
  /** The pressure falls while it runs, or the sediment cartridge was seen to be old; on which day. */
  readonly pressureFellOn?: string | undefined;
  /** Across the sediment cartridge, as last read. */
  readonly drop?: PressureDrop | undefined;
  /** Chlorine was found behind the carbon, or it was seen to be old; on which day. */
  readonly chlorinePassedOn?: string | undefined;
  /** The membrane's flow or rejection has fallen from its clean baseline; on which day. */
  readonly membraneWornOn?: string | undefined;
}

export interface UpkeepFacts {
  readonly rig: Rig;
  readonly services: readonly Service[];
  readonly charges: readonly Charge[];
  readonly seen: Seen;
  readonly today: string;
  readonly dateOf: (milliseconds: number) => string;
}

/** Parts that a rig has: those of its train, and what every rig has. */
export const partsOf = ({ stages }: Rig): readonly Part[] => [
  ...(["sediment", "carbon", "membrane"] as const).filter((part) => stages.some(({ kind }) => kind === part)),
  "seals",
  "strainer",
];

/** mg of chlorine in a gram. */
const MG_PER_GRAM = 1000;

/** When the chlorine that a carbon cartridge takes is used up: what went through since, then at the pace of a usual week. */
function chlorineDue(last: string, grams: number, seen: Seen, today: string) {
  if (!seen.chlorine) return undefined;
  const litres = (grams * MG_PER_GRAM) / seen.chlorine;
  const used = seen.litresSince(last);
  const usedShare = used / litres;
  if (usedShare >= 1) return { on: today, usedShare };
  if (!(seen.litresPerWeek > 0)) return undefined;
  return { on: addDays(today, Math.floor((7 * (litres - used)) / seen.litresPerWeek)), usedShare };
}

const afterMonths = (from: string, months: number) => addDays(from, Math.round(months * DAYS_IN_MONTH));

/** A cartridge that holds the water back, since a day: by its gauges where they were read last, else by what was seen. */
function cloggedSince({ drop, pressureFellOn }: Seen, changed: string): Pick<Due, "drop"> | undefined {
  if (drop && drop.on > changed && drop.on >= (pressureFellOn ?? ""))
    return drop.kPa >= FULL_DROP.from ? { drop } : undefined;
  return pressureFellOn !== undefined && pressureFellOn > changed ? {} : undefined;
}

const newestOf = (part: Part, services: readonly Service[]): Service | undefined =>
  services
    .filter((each) => each.part === part)
    .reduce<Service | undefined>((last, each) => (last && last.at >= each.at ? last : each), undefined);

/**
 * What was seen of a part since it was new that makes it due today, whatever the months say.
 * @param last ISO date on which it was new, and that of the sediment cartridge; empty where nobody noted it
 */
function seenToBeDue(
  part: Part,
  seen: Seen,
  last: string,
  newSediment: string,
): Pick<Due, "because" | "drop"> | undefined {
  if (part === "sediment") {
    const clogged = cloggedSince(seen, last);
    return clogged && { ...clogged, because: "pressure" };
  }
  if (part === "carbon" && seen.chlorinePassedOn !== undefined && seen.chlorinePassedOn > last)
    return { because: "passed" };
  if (part !== "membrane" || seen.membraneWornOn === undefined || seen.membraneWornOn <= last) return undefined;
  // Pressure first: what a clogged cartridge takes is not the membrane's fault until the cartridge is new.
  return cloggedSince(seen, newSediment) ? undefined : { because: "rejection" };
}

/** g of chlorine that the carbon of a train takes, where that was noted of the stage. */
const carbonIn = ({ stages }: Rig): number | undefined =>
  stages.flatMap((stage) =>
    stage.kind === "carbon" && stage.chlorineGrams !== undefined ? [stage.chlorineGrams] : [],
  )[0];

function duePart(part: Part, { rig, services, charges, seen, today, dateOf }: UpkeepFacts): Due {
  const own = services.filter((each) => each.rigId === rig.id);
  const newest = newestOf(part, own);
  const months = newest?.everyMonths ?? USUAL_MONTHS[part];
  const head = { task: part, rigId: rig.id, months };
  // Rings are looked at and greased with each refill: the first filling is their first day.
  const begin = part === "seals" ? charges.map(({ filledAt }) => filledAt).sort()[0] : undefined;
  const at = newest?.at ?? begin;
  const last = at === undefined ? undefined : dateOf(Date.parse(at));
  const sediment = newestOf("sediment", own);
  const seenDue = seenToBeDue(part, seen, last ?? "", sediment ? dateOf(Date.parse(sediment.at)) : "");
  const now = seenDue && { ...head, ...(last ? { last } : {}), ...seenDue, on: today };
  if (last === undefined) return now ?? { ...head, because: "unknown" };
  const byMonths: Due = { ...head, last, on: afterMonths(last, months), because: "months" };
  const sooner = (due: Due): Due => (due.on! < byMonths.on! ? due : byMonths);
  if (now) return sooner(now);
  const grams = newest?.chlorineGrams ?? carbonIn(rig);
  if (part === "carbon" && grams !== undefined) {
    const chlorine = chlorineDue(last, grams, seen, today);
    if (chlorine) return sooner({ ...head, last, ...chlorine, because: "chlorine" });
  }
  return byMonths;
}

/**
 * What upkeep of a rig comes due when, each on its time or its condition.
 * @example upkeepOf(facts)[0] // { task: "sediment", on: "2027-06-11", because: "months", months: 6, last: "2026-12-10" }
 */
export const upkeepOf = (facts: UpkeepFacts): readonly Due[] => partsOf(facts.rig).map((part) => duePart(part, facts));

/** When meters are to be checked against a standard. */
export const meterChecks = (meters: readonly Meter[]): readonly Due[] =>
  meters
    .filter(({ retiredOn }) => retiredOn === undefined)
    .map(({ id, checkedOn }) => {
      const head = { task: "meter" as const, meterId: id, months: METER_MONTHS };
      if (checkedOn === undefined) return { ...head, because: "unknown" as const };
      return { ...head, last: checkedOn, on: afterMonths(checkedOn, METER_MONTHS), because: "months" as const };
    });
