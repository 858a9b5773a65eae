import { VOID_FRACTION } from "../bed/bed";
import { given, planningAssumption, type Explanation } from "../explain/explanation";
import { lifeFigures, outputAt, workOutLife, type LifeInput } from "../life/life";
import { litresOfLife, meterShapeOf } from "../plan/figures";
import { PACKING_FACTORS } from "../resin/storage";
import { succeed, type Result } from "../result";
import { onScale } from "../water/meter";
import { flowsUp, type VesselKind } from "../vessel/vessel.record";

/** What a mistake does to the bed. All of it is assumed, and may be changed. */
export interface Effect {
  /** Share of the beads that is lost. */
  readonly lost: number;
  /** Share of capacity that loosely lying beads reach. */
  readonly packing: number;
  /** Share of the water that goes round the beads. */
  readonly bypass: number;
  /** Litres of tap water a litre of beads that went into it before the work: their load is spent. */
  readonly tapWater: number;
  /** The first output, as a share of the feed, where nothing was rinsed away, and the minutes in which it falls to 1/e. */
  readonly high: number;
  readonly fallsIn: number;
  /** Minutes to sweep, open again and mend. */
  readonly mend: number;
}
export const EFFECT_NAMES = ["lost", "packing", "bypass", "tapWater", "high", "fallsIn", "mend"] as const;

const NONE: Effect = { lost: 0, packing: 1, bypass: 0, tapWater: 0, high: 0, fallsIn: 0, mend: 0 };

/** A mistake: where it is made, what tempts to it, what it does and what to remember. */
export interface Mistake {
  readonly name: string;
  /** The step of the guide at which it is made. */
  readonly step: string;
  /** What the hand would do, and the right way beside it. */
  readonly tempting: string;
  readonly right: string;
  readonly effect: Partial<Effect>;
  /** What happens, in words. */
  readonly happens: string;
  readonly remember: string;
}

/** Mistakes at a refill and what they do: planning assumptions, one table. */
export const MISTAKES = {
  overfilled: {
    name: "Overfilled",
    step: "fill",
    tempting: "All of the bag in, up to the rim",
    right: "Stop at the mark",
    effect: { lost: 0.03, bypass: 0.005, mend: 10 },
    happens: "The riser and the head push beads up and out; some stay in the thread, and water creeps past the seat.",
    remember: "The mark leaves room for head and riser. What is left goes back into the bag.",
  },
  unplugged: {
    name: "Riser not plugged",
    step: "riser-in",
    tempting: "Hold the riser with one hand and pour on",
    right: "Plug its top before a bead goes in",
    effect: { lost: 0.02, mend: 20 },
    happens: "Beads fall into the tube, and the first water carries them into hose and brush.",
    remember: "Plug in before the first bead, out after the last.",
  },
  loose: {
    name: "Not settled",
    step: "settle",
    tempting: "It is full: close it",
    right: "Shake, tap, top up to the mark",
    effect: {},
    happens: "Water finds the gaps between loose beads: some of them never see it.",
    remember: "Tap until it stops sinking, then fill up.",
  },
  "tap-water": {
    name: "Wetted with tap water",
    step: "wet",
    tempting: "The garden hose is nearer",
    right: "Wet it with pure water",
    effect: { tapWater: VOID_FRACTION },
    happens: "The tap water in the beads spends some of them before the first job.",
    remember: "Keep a bucket of the last pure water for the next refill.",
  },
  "beads-in-thread": {
    name: "Beads in the thread",
    step: "wipe",
    tempting: "A few beads on the seat do no harm",
    right: "Wipe seat, seal, groove and threads",
    effect: { bypass: 0.01, mend: 15 },
    happens: "The seal stands on beads in place of the seat: it drips, and tap water goes past the bed.",
    remember: "One bead under a seal is a leak past the bed.",
  },
  "seal-forgotten": {
    name: "Seal forgotten",
    step: "seal",
    tempting: "The O-ring in the dish will be a spare one",
    right: "Count the parts: every one goes back",
    effect: { bypass: 0.06, mend: 30 },
    happens: "Water goes straight past the beads: the output is a steady share of the feed.",
    remember: "As many parts in as came out.",
  },
  crossed: {
    name: "Head crossed",
    step: "close",
    tempting: "It fights: a longer wrench",
    right: "Undo it, turn it back until it drops in",
    effect: { bypass: 0.02, mend: 30 },
    happens: "The head sits askew, the thread is harmed, and water goes round the bed.",
    remember: "If it fights, undo it. By hand alone.",
  },
  "on-its-side": {
    name: "Laid on its side with a gap",
    step: "connect",
    tempting: "Lay it down, it fits better in the van",
    right: "Upright, strapped",
    effect: { bypass: 0.03, mend: 5 },
    happens: "A gap opens above the beads from end to end, and the water runs through it.",
    remember: "Upright in use; a cartridge packed full may lie.",
  },
  "no-rinse": {
    name: "Not rinsed",
    step: "purge",
    tempting: "Straight onto the glass",
    right: "A minute to drain, then two more, then read",
    effect: { high: 0.3, fallsIn: 0.6 },
    happens: "The first litres carry what sat on the fresh beads, and air: they dry as spots.",
    remember: "The first minute is thrown away, every time.",
  },
} as const satisfies Readonly<Record<string, Mistake>>;

export type MistakeName = keyof typeof MISTAKES;
export const MISTAKE_NAMES = Object.keys(MISTAKES) as readonly MistakeName[];

export type Effects = Readonly<Record<MistakeName, Effect>>;

/**
 * What each mistake does in a kind of vessel.
 * @example effectsFor("cartridge").loose.packing // 0.8
 */
export const effectsFor = (kind: VesselKind): Effects =>
  Object.fromEntries(
    MISTAKE_NAMES.map((name): [MistakeName, Effect] => [
      name,
      {
        ...NONE,
        ...(MISTAKES[name].effect as Partial<Effect>),
        ...(name === "loose" ? { packing: PACKING_FACTORS[flowsUp(kind) ? "loose-cartridge" : "poured"] } : {}),
      },
    ]),
  ) as Effects;

/** Several at once: losses and packing multiply, paths round the beads add up, the slowest rinse counts. */
export const together = (effects: readonly Effect[]): Effect =>
  effects.reduce<Effect>(
    (all, each) => ({
      lost: 1 - (1 - all.lost) * (1 - each.lost),
      packing: all.packing * each.packing,
      bypass: 1 - (1 - all.bypass) * (1 - each.bypass),
      tapWater: all.tapWater + each.tapWater,
      high: Math.max(all.high, each.high),
      fallsIn: Math.max(all.fallsIn, each.fallsIn),
      mend: all.mend + each.mend,
    }),
    NONE,
  );

export interface PracticeInput {
  /** The vessel filled rightly, with its water and its limit. */
  readonly life: LifeInput;
  /** Until anything leaks, as an aquarium asks, or until a meter shows the limit (default). */
  readonly until?: "leak" | "meter";
  readonly behindMembrane?: boolean;
  readonly litresPerJob: number;
  /** Money for a litre of resin, an hour of work, and a job done again. */
  readonly resinPrice: number;
  readonly wage: number;
  readonly spoiltJob: number;
  readonly currency: string;
}

/** Jobs done before anybody reads: a planning assumption. */
export const JOBS_BEFORE_READ = 1;

/** What a refill done so gives. */
export interface PracticeOutcome {
  /** To the limit; 0 where it is above it from the first litre, until it is mended. */
  readonly litres: number;
  readonly isReachable: boolean;
  /** L of beads lost. */
  readonly resinLost: number;
  /** After the rinse, on the scale of the limit. */
  readonly firstReading: number;
  /** Salts in each litre beyond those of a right refill, mg: small, and the whole charge long. */
  readonly moreSalts: number;
  /** L of water above the limit that reached the work. */
  readonly aboveLimit: number;
  /** Salts that these leave where they dry, mg: spots. */
  readonly residue: number;
  /** Jobs with spots. */
  readonly spoiltJobs: number;
  readonly money: { readonly resin: number; readonly time: number; readonly jobs: number; readonly total: number };
  /** The same life with the effect in it: what the Lab is asked. */
  readonly life: LifeInput;
  readonly explanation: Explanation;
}

/** A life as a mistake leaves it. */
function lifeAfter({ life }: PracticeInput, { lost, packing, bypass, tapWater }: Effect, spent: number): LifeInput {
  return {
    ...life,
    bed: {
      ...life.bed,
      volume: life.bed.volume * (1 - lost),
      bypass: 1 - (1 - (life.bed.bypass ?? 0)) * (1 - bypass),
    },
    packing: Math.max(1e-3, (life.packing ?? 1) * packing * (tapWater > 0 ? 1 - spent : 1)),
  };
}

/** Water and salts above the limit in the first minutes: `c₀ e^(-t/τ)` until it falls to the limit. */
function firstMinutes(feed: number, limit: number, floor: number, flow: number, { high, fallsIn }: Effect) {
  const start = high * feed;
  const room = limit - floor;
  if (!(fallsIn > 0) || room <= 0 || start <= room) return { litres: 0, meanEc: 0 };
  const minutes = fallsIn * Math.log(start / room);
  return { litres: flow * minutes, meanEc: floor + ((start - room) * fallsIn) / minutes };
}

/**
 * What a refill gives in which this was done: litres to the limit, the first reading, water above the limit and money.
 *
 * @param effect what was done wrong, all together; nothing for a refill done rightly
 */
export function practise(input: PracticeInput, effect: Effect): Result<PracticeOutcome> {
  const right = workOutLife(input.life);
  if (!right.ok) return right;
  const { water, sides, limitingSide, limitEc25 } = right.value;
  const load = limitingSide === "cation" ? water.cationLoad : water.anionLoad;
  const spent = Math.min(1, (effect.tapWater * load) / (1000 * sides[limitingSide]));
  const life = lifeAfter(input, effect, spent);
  const worked = workOutLife(life);
  if (!worked.ok) return worked;
  const [before, after] = [lifeFigures(right.value), lifeFigures(worked.value)];
  if (!before.ok) return before;
  if (!after.ok) return after;
  const shape = meterShapeOf(input.life.water, input.behindMembrane === true);
  const until = input.until ?? "meter";
  const whole = litresOfLife(right.value, before.value, until, shape);
  const left = litresOfLife(worked.value, after.value, until, shape);
  const scale = input.life.limit.scale;
  const floor = outputAt(worked.value, 1e-3);
  const isAbove = floor > limitEc25;
  const start = firstMinutes(water.ec25, limitEc25, floor, input.life.bed.flow, effect);
  const aboveLimit = isAbove ? JOBS_BEFORE_READ * input.litresPerJob : start.litres;
  const meanEc = isAbove ? floor : start.meanEc;
  const spoiltJobs = aboveLimit / input.litresPerJob;
  // Mended at once where it is above the limit: then its litres come after all.
  const gives = isAbove ? whole * (1 - effect.lost) : left;
  const volume = input.life.bed.volume;
  const resin = volume * input.resinPrice * Math.max(0, 1 - gives / whole);
  const time = (effect.mend / 60) * input.wage;
  const jobs = spoiltJobs * input.spoiltJob;
  const total = resin + time + jobs;
  return succeed({
    litres: isAbove ? 0 : left,
    isReachable: !isAbove,
    resinLost: effect.lost * volume,
    firstReading: onScale(floor, scale),
    moreSalts: onScale(Math.max(0, floor - outputAt(right.value, 1e-3)), "nacl"),
    aboveLimit,
    residue: onScale(meanEc, "nacl") * aboveLimit,
    spoiltJobs,
    money: { resin, time, jobs, total },
    life,
    explanation: explainMoney(input, {
      gives: Math.min(gives, whole),
      whole,
      minutes: effect.mend,
      spoiltJobs,
      total,
    }),
  });
}

function explainMoney(
  input: PracticeInput,
  {
    gives,
    whole,
    minutes,
    spoiltJobs,
    total,
  }: { gives: number; whole: number; minutes: number; spoiltJobs: number; total: number },
): Explanation {
  return {
    name: "What it costs",
    value: total,
    unit: input.currency,
    formula: "V × p × (1 − g / w) + m / h × a + n × s",
    words: "resin whose litres never come, the time to mend it, and jobs to be done again",
    inputs: [
      given("V", "Resin of the charge", input.life.bed.volume, "L", "the fill"),
      given("p", "A litre of resin", input.resinPrice, `${input.currency}/L`, "the prices"),
      given("g", "Litres that it gives", gives, "L", "its own working"),
      given("w", "Litres of a right refill", whole, "L", "its own working"),
      planningAssumption("m", "Minutes to mend it", minutes, "min"),
      given("h", "Minutes of an hour", 60, "min/h", "exact by definition"),
      given("a", "An hour of work", input.wage, `${input.currency}/h`, "the prices"),
      given("n", "Jobs with spots", spoiltJobs, "", "water above the limit, by the job"),
      given("s", "A job done again", input.spoiltJob, input.currency, "the prices"),
    ],
    school: "mistakes at a refill",
    source: "definition",
  };
}
