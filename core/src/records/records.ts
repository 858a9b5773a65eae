import type { PlanFigures } from "../plan/outcome";
import type { OptionSpec } from "../plan/options";
import type { Prices } from "../plan/prices";
import type { SizeInput } from "../plan/size";
import type { Grade } from "../resin/capacity";
import type { Container, Packing } from "../resin/storage";
import type { SeenBeside } from "../membrane/wear";
import type { Scale } from "../water/meter";
import type { ReportValues } from "../water/report";

/** UUID (version 7), made where the record is made. */
export type Id = string;
/** ISO 8601 with its offset, such as `2027-03-01T08:10:00.000Z`. */
export type Instant = string;

/** What the product water is for; it decides the marks. */
export type Use = "glass" | "paint" | "aquarium";

/** A place where work is done or vessels are filled. */
export interface Site {
  readonly id: Id;
  readonly name: string;
  readonly note?: string | undefined;
}

/** Where water is drawn; what its feed is like over the seasons. */
export interface Tap {
  readonly id: Id;
  readonly siteId: Id;
  readonly name: string;
  /** Feed on `scale`, as known before there are readings. */
  readonly low: number;
  readonly typical: number;
  readonly high: number;
  readonly scale: Scale;
  /** °C. */
  readonly temperature?: number | undefined;
  readonly ph?: number | undefined;
  /** mg/L as CaCO3. */
  readonly alkalinity?: number | undefined;
  /** mg/L as SiO2. */
  readonly silica?: number | undefined;
}

export interface Meter {
  readonly id: Id;
  readonly name: string;
  readonly scale: Scale;
  readonly compensated: boolean;
  /** ISO date of the last check against a standard solution. */
  readonly checkedOn?: string | undefined;
  /** What that check found: the standard's µS/cm at 25 °C, and what the meter showed in it on its own scale. */
  readonly check?: { readonly standard: number; readonly shown: number } | undefined;
  /** What it shows in pure water, on its own scale; taken off every reading. */
  readonly offset?: number | undefined;
}

/** One stage of a train, in the order the water meets them. */
export type Stage =
  | { readonly kind: "sediment" | "carbon" | "degasser" }
  /** Share of the feed's ions held back, such as 0.95. */
  | { readonly kind: "membrane"; readonly rejection: number }
  | { readonly kind: "resin"; readonly vesselId: Id };

export interface Rig {
  readonly id: Id;
  readonly name: string;
  readonly use: Use;
  /** The tap it usually hangs on. */
  readonly tapId: Id;
  /** Usual flow through the resin, L/min. */
  readonly flow: number;
  readonly stages: readonly Stage[];
  /** What a job is called: house, car, water change. */
  readonly jobName: string;
  /** Usual litres of one job. */
  readonly litresPerJob: number;
  /** Jobs of a usual week, as stated: a date before the first log. */
  readonly jobsPerWeek?: number | undefined;
  /** Litres at which the rig's water meter starts again from 0. */
  readonly meterRollsOverAt?: number | undefined;
}

export type VesselKind = "screw-head-tank" | "inner-seal-bottle" | "floated-tank" | "cartridge";

/** Outputs at which a technician watches, acts and stops, and the share of capacity that may fire first. */
export interface Marks {
  readonly watch: number;
  readonly limit: number;
  readonly hard: number;
  readonly scale: Scale;
  /** 0.9: act when nine tenths of the capacity are used, whatever the meter says. */
  readonly capacityUsed?: number | undefined;
}

export interface Vessel {
  readonly id: Id;
  readonly name: string;
  readonly kind: VesselKind;
  /** L inside. */
  readonly grossVolume: number;
  /** Inner diameter, mm. */
  readonly diameter: number;
  /** kg. */
  readonly emptyWeight?: number | undefined;
  /** Share of the inside to fill with resin. */
  readonly fillFraction: number;
  readonly marks: Marks;
}

/** Why a charge was changed. */
export type EndReason = "limit" | "early" | "fault";

/** One filling of one vessel. */
export interface Charge {
  readonly id: Id;
  readonly vesselId: Id;
  /** The rig it served. */
  readonly rigId: Id;
  readonly grade: Grade;
  /** L of mixed resin. */
  readonly resinLitres: number;
  readonly packing: Packing;
  readonly stored?: { readonly container: Container; readonly months: number; readonly warm: boolean } | undefined;
  readonly filledAt: Instant;
  /** The water meter's total at filling, L. */
  readonly startTotal?: number | undefined;
  readonly ended?: { readonly at: Instant; readonly why: EndReason; readonly note?: string | undefined } | undefined;
}

/** Water used in one visit, as it was known. */
export type VisitWater =
  | {
      readonly by: "total";
      readonly total: number;
      /** A new meter that started at 0. */ readonly replaced?: boolean | undefined;
      /** Looked at again and right, however far it is from the last one. */ readonly confirmed?: boolean | undefined;
    }
  | { readonly by: "timed"; readonly minutes: number; readonly flow: number }
  | { readonly by: "jobs"; readonly jobs: number; readonly litresPerJob: number };

/** Where in the train a reading was taken. */
export type ReadingPoint = "feed" | "after-membrane" | "output";

/** What was seen; conductivity at 25 °C is derived, so that correcting a meter's scale corrects its history. */
export interface ReadingRecord {
  readonly id: Id;
  readonly point: ReadingPoint;
  readonly meterId?: Id | undefined;
  /** Only where no meter is named, or a switchable one stood on another scale. */
  readonly scale?: Scale | undefined;
  readonly value: number;
  /** °C. */
  readonly temperature?: number | undefined;
  /** Looked at again and right, however far it is from usual. */
  readonly confirmed?: boolean | undefined;
}

/** One hook-up of a rig at a tap. */
export interface Visit {
  readonly id: Id;
  readonly rigId: Id;
  readonly tapId: Id;
  readonly at: Instant;
  readonly water?: VisitWater | undefined;
  readonly readings: readonly ReadingRecord[];
  readonly note?: string | undefined;
}

/** A reading of the feed taken for itself, not as part of a visit. */
export interface FeedTest {
  readonly id: Id;
  readonly tapId: Id;
  readonly at: Instant;
  readonly meterId?: Id | undefined;
  /** Only where no meter is named, or a switchable one stood on another scale. */
  readonly scale?: Scale | undefined;
  readonly value: number;
  /** °C. */
  readonly temperature?: number | undefined;
  /** Looked at again and right, however far it is from usual. */
  readonly confirmed?: boolean | undefined;
  readonly note?: string | undefined;
}

/** How an analysis came here. */
export type ReportSource = "typed" | "imported" | "supplier";

/** An analysis of a tap's water, mg/L; see `ReportValues`. */
export interface WaterReport {
  readonly id: Id;
  readonly tapId: Id;
  /** ISO date of the sample. */
  readonly sampledOn: string;
  readonly source: ReportSource;
  /** The supplier's zone, or the laboratory. */
  readonly origin?: string | undefined;
  readonly values: ReportValues;
  readonly note?: string | undefined;
}

/** One look at a rig's membrane while it runs. */
export interface MembraneCheck {
  readonly id: Id;
  readonly rigId: Id;
  readonly at: Instant;
  readonly meterId?: Id | undefined;
  readonly scale?: Scale | undefined;
  /** Readings before and behind the membrane, on the meter's scale. */
  readonly feed: number;
  readonly product: number;
  /** °C. */
  readonly temperature: number;
  /** kPa before the membrane, running. */
  readonly pressure: number;
  /** kPa behind it. */
  readonly permeatePressure?: number | undefined;
  /** L/min. */
  readonly productFlow: number;
  readonly wasteFlow: number;
  /** New or just cleaned: the baseline that later checks are held against. */
  readonly clean: boolean;
  /** What was seen beside it. */
  readonly seen?: SeenBeside | undefined;
  readonly note?: string | undefined;
}

/** A choice of vessel, train and resin that was accepted: what was asked, what was chosen and what it was to do. */
export interface Plan {
  readonly id: Id;
  readonly name: string;
  readonly keptAt: Instant;
  readonly use: Use;
  readonly tapId: Id;
  /** What a job is called, where the work counts jobs. */
  readonly jobName: string;
  readonly work: SizeInput;
  readonly option: OptionSpec;
  readonly expected: PlanFigures;
  /** ISO 4217 code of every price in it. */
  readonly currency: string;
  /** The rig that was built from it, and since when. */
  readonly rigId?: Id | undefined;
  readonly inUseSince?: Instant | undefined;
  readonly note?: string | undefined;
}

/** The crew's own prices; the newest list counts. */
export interface PriceList {
  readonly id: Id;
  /** ISO date they were set down. */
  readonly setOn: string;
  /** ISO 4217 code. */
  readonly currency: string;
  readonly prices: Prices;
}

/** Default marks; each can be changed for a vessel. */
export const MARKS = {
  "glass-10": { watch: 6, limit: 10, hard: 20, scale: "nacl" },
  "glass-20": { watch: 12, limit: 20, hard: 30, scale: "nacl" },
  "aquarium-1": { watch: 0.5, limit: 1, hard: 2, scale: "nacl", capacityUsed: 0.9 },
  "aquarium-2": { watch: 1, limit: 2, hard: 4, scale: "nacl", capacityUsed: 0.9 },
} as const satisfies Record<string, Marks>;

/** Which way the water goes through the beads. */
export const flowsUp = (kind: VesselKind) => kind === "cartridge";
