import type { VesselKind } from "../vessel/vessel.record";
import type { Use } from "../vessel/marks";
import type { CautionName } from "./cautions";
import type { Guided } from "./refill-step.record";
import type { TroubleName } from "./troubles";
import type { WayName, Ways } from "./ways";

/** A place of the vessel that a step is about. */
export type Spot =
  | "thread"
  | "seat"
  | "seal"
  | "inner-seal"
  | "riser-top"
  | "riser-foot"
  | "rim"
  | "base"
  | "inlet"
  | "outlet"
  | "bottom-gap"
  | "flat-seals"
  | "o-ring";

/** The vessel as it looks at the end of a step; its sizes come from the vessel itself. */
export interface Scene {
  readonly of: "vessel" | "housing";
  readonly stance: "upright" | "laid" | "turned-over";
  readonly head: "on" | "loose" | "off";
  readonly riser: "in" | "out" | "pulled" | "sliding" | "none";
  /** The riser's top is closed. */
  readonly plug: boolean;
  /** Beads in it: spent or fresh, up to a share of the fill mark; of a top-up the spent ones stay below the fresh. */
  readonly beads?: { readonly are: "spent" | "fresh"; readonly level: number; readonly spentTo?: number };
  /** Beads on their way. */
  readonly beadsGo?: "out" | "in";
  /** Water in it, a share of its inside. */
  readonly water: number;
  /** Water on its way through, or running out while the pressure falls. */
  readonly waterGoes: "through" | "out" | "drains" | "in" | "none";
  /** The fill mark is drawn. */
  readonly mark: boolean;
  /** What is looked at or handled. */
  readonly look: readonly Spot[];
  /** Where no bead may be. */
  readonly noBeads: readonly Spot[];
  readonly heavy: boolean;
  readonly hoses: "connected" | "off";
  readonly tool?: "funnel" | "scoop" | "sieve-bag" | "hose" | "wrench" | "meter" | "dish";
  /** Of a housing: what stands in it. */
  readonly element?: "old" | "new" | "none";
  /** Water runs along it, the product out of its middle, as in a membrane. */
  readonly along?: true;
}

/** A time to wait, minutes: planning assumptions. */
export const TIMERS = {
  drain: { name: "Draining", minutes: 120 },
  settle: { name: "Settling", minutes: 2 },
  purge: { name: "Purging", minutes: 1 },
  "rinse-up": { name: "Rinsing up", minutes: 2 },
  "carbon-rinse": { name: "Rinsing the carbon", minutes: 10 },
  "membrane-flush": { name: "Flushing the membrane", minutes: 60 },
} as const;
export type TimerName = keyof typeof TIMERS;

/** A computed figure that a step needs at hand. */
export type AmountName =
  | "wet-weight"
  | "drained-weight"
  | "spent-weight"
  | "litres"
  | "scoops"
  | "bags"
  | "wetting-water"
  | "floating-water"
  | "depth-of-fill";

/** What is typed or chosen at a step. */
export type Asked =
  | "tools"
  | "parts"
  | "parts-again"
  | "tools-again"
  | "last-reading"
  | "resin"
  | "first-reading"
  | "baseline"
  | "look"
  | "seals"
  | "pure-water"
  | "vessel-in";

/** One action of guided work. */
export interface GuideStep {
  readonly id: string;
  /** What is done: the heading. */
  readonly title: string;
  /** The same in two or three words, for the button before it: `settle and wet`. */
  readonly short: string;
  /** How, in a line or two. */
  readonly how: readonly string[];
  /** On the button: `Filled`. */
  readonly done: string;
  readonly scene: Scene;
  readonly cautions: readonly CautionName[];
  readonly amounts: readonly AmountName[];
  /** Schools that part here. */
  readonly ways: readonly WayName[];
  readonly timer?: TimerName;
  /** The check's question; it is passed, or one of the troubles was seen. */
  readonly check?: string;
  readonly troubles: readonly TroubleName[];
  readonly asks: readonly Asked[];
}

/** What the guide is for. */
export interface GuideSetting {
  readonly guided: Guided;
  readonly kind: VesselKind;
  readonly ways: Ways;
  readonly use: Use;
  /** The vessel holds no charge yet: nothing is emptied. */
  readonly isEmpty: boolean;
  /** The rig hangs behind a membrane. */
  readonly behindMembrane: boolean;
  /** Wet it weighs enough to hurt a back. */
  readonly isHeavy: boolean;
}

type StepParts = Pick<GuideStep, "id" | "title" | "short" | "how" | "done"> & Partial<Omit<GuideStep, "scene">>;

const STILL: Scene = {
  of: "vessel",
  stance: "upright",
  head: "on",
  riser: "in",
  plug: false,
  water: 0,
  waterGoes: "none",
  mark: false,
  look: [],
  noBeads: [],
  heavy: false,
  hoses: "off",
};

/** A step with its drawing, what it leaves out being none. */
export const step = (parts: StepParts, scene: Partial<Scene> = {}): GuideStep => ({
  cautions: [],
  amounts: [],
  ways: [],
  troubles: [],
  asks: [],
  ...parts,
  scene: { ...STILL, ...scene },
});
