import type { ReadingGroup } from "../belief/groups";
import type { ThreeOf } from "../life/life-range";
import type { Rig } from "../rig/rig.record";
import { rotates } from "../rig/train-edits";
import type { Vessel } from "../vessel/vessel.record";
import type { BeforeResin } from "./before-resin";
import type { Leak, Standing } from "./standing";
import { marksOn } from "../vessel/marks";
import { onScale, scaleFactor, type Scale } from "../water/meter";
import type { Reason, State } from "../verdict/verdict";

/** How figures are spoken: in the units and on the scale of whoever reads them. */
export interface Wording {
  /** @example litres(1650) // "1,650 L" */
  readonly litres: (litres: number) => string;
  /** @example litresRange(24.1, 57.3) // "24 to 58 L" */
  readonly litresRange: (low: number, high: number) => string;
  /** @example scaleUnit("nacl") // "ppm NaCl" */
  readonly scaleUnit: (scale: Scale) => string;
  /** @example day(Date.UTC(2027, 2, 1)) // "Mon 1 Mar" */
  readonly day: (milliseconds: number) => string;
}

const TITLES: Readonly<Record<State, string>> = {
  fine: "Fine",
  watch: "Watch",
  finish: "Finish, rinse more",
  change: "Change now",
};

const LOOK_AGAIN = "Look again";
const DO_NOT_USE = "Don’t use this water";
const BOTH_SPENT = "Both are spent";
/** Of a bed with another behind it, whose water nobody uses. */
const SPENT = "Spent";

/** Two words for a verdict. */
export function verdictTitle({ verdict }: Standing, { use }: Pick<Rig, "use">, lead?: SpentLead): string {
  if (verdict.reasons[0] === "chlorine") return use === "aquarium" ? "Don’t fill" : "Change the carbon";
  if (verdict.reasons[0] === "odd-reading") return LOOK_AGAIN;
  if (verdict.state === "watch" && verdict.reasons[0] === "lead-odd") return "Watch: look again";
  if (verdict.state === "watch" && verdict.reasons[0] === "lead-spent")
    return lead && staysPut(lead.standing) ? "Watch: refill" : "Watch: rotate";
  if (verdict.state === "finish" && use === "aquarium") return "Stop filling";
  return TITLES[verdict.state];
}

const tidy = (value: number) => String(Number(value.toPrecision(3)));

/** What the outputs to watch from and to stop at are called. */
const POINT = { watch: "watch point", hard: "stop point" } as const;

/** The last group's reading as it was typed, on the scale of the meter in hand, and the marks on the same scale. */
class OnTheMeter {
  readonly scale: Scale;
  readonly output: string;
  private readonly group: ReadingGroup | undefined;

  constructor(
    where: Standing,
    private readonly vessel: Vessel,
    wording: Wording,
  ) {
    const last = where.outputs[where.outputs.length - 1];
    const group = where.groups[where.groups.length - 1];
    this.group = group;
    this.scale = last?.scale ?? vessel.marks.scale;
    const unit = wording.scaleUnit(this.scale);
    // One dip as it was typed; looks after each other in their order, which says more than their middle.
    const looks = group?.looks ?? [];
    const isOneDip = where.outputs.filter(({ visitId }) => visitId === last?.visitId).length <= 1;
    const shown = looks.map((look) => tidy(onScale(look, this.scale)));
    if (isOneDip && last) shown.splice(-1, 1, tidy(last.value));
    this.output = `${shown.join(", then ")} ${unit}`;
  }

  mark(which: "watch" | "limit" | "hard"): string {
    return tidy(marksOn(this.scale, this.vessel.marks)[which]);
  }

  /** `at your stop point of 20`, or above it. */
  against(which: "watch" | "hard"): string {
    const shown = tidy(onScale(this.group?.ec25 ?? 0, this.scale));
    return `${shown === this.mark(which) ? "at" : "above"} your ${POINT[which]} of ${this.mark(which)}`;
  }

  get isAboveHard(): boolean {
    const { marks } = this.vessel;
    return (this.group?.ec25 ?? 0) >= marks.hard / scaleFactor(marks.scale);
  }
}

/** Whether a rig's litres run to the first leak: it harms an aquarium, and it is the only end where the feed itself meets the limit. */
const countsToLeak = (where: Standing, { use }: Pick<Rig, "use">): where is Standing & { readonly leak: Leak } =>
  where.leak !== undefined && where.leftTo === "limit" && (use === "aquarium" || where.feedMeetsLimit);

/** The litres that stand for a rig: to the first leak where that is its end, else to the mark. */
export const shownLitres = (where: Standing, rig: Pick<Rig, "use">): ThreeOf<number> | undefined =>
  countsToLeak(where, rig) ? where.leak : where.left;

/** What tells the end of a charge that no meter shows. */
const UNSEEN_END =
  "The feed itself meets your limit, so the meter won’t show the end: a silica test, the colour of dyed resin or the months will.";

/** What a standing leaves, in words: to which mark, and nothing where nothing is to be said. */
export function leftWords(
  where: Standing,
  { rig, vessel }: { readonly rig: Rig; readonly vessel: Vessel },
  wording: Wording,
): string {
  if (countsToLeak(where, rig)) {
    const toLeak = `${wording.litresRange(where.leak.low, where.leak.high)} left until anything leaks.`;
    return where.feedMeetsLimit ? `${toLeak} ${UNSEEN_END}` : toLeak;
  }
  if (where.feedMeetsLimit)
    return "The feed itself meets your limit, so a meter shows no end. With the tap’s KH and pH the litres until anything leaks can be told.";
  if (!where.left) return where.leftTo === "hard" && !where.isExplained ? unexplained(where) : "";
  const range = wording.litresRange(where.left.low, where.left.high);
  const on = new OnTheMeter(where, vessel, wording);
  const unit = wording.scaleUnit(on.scale);
  return where.leftTo === "hard"
    ? `${range} left before your stop point of ${on.mark("hard")} ${unit}.`
    : `${range} left to your limit of ${on.mark("limit")} ${unit}.`;
}

/** Readings above a mark that the count does not explain: what else it may be. */
const unexplained = ({ rise }: Standing) =>
  `By the count it should hold longer${rise ? ", yet it rises" : ""}: look for water round the beads (seal, riser, bypass), air, the wrong resin, or a meter that errs.`;

/** What stands large for a rig: litres, or where something is wrong the word. */
export type Headline =
  | {
      /** Of an aquarium to the first leak, where its composition is known. */
      readonly litres: ThreeOf<number>;
      /** @example "left", "to the stop point", "to the first leak" */
      readonly to: string;
      readonly word?: never;
    }
  | {
      /** @example "Look again", "Don’t use this water", "Both are spent" */
      readonly word: string;
      /** What would be left, had the reading been wrong. */
      readonly ifWrong?: ThreeOf<number>;
      readonly litres?: never;
    };

/** What a rig has left, for its column, or the word where no litres are to be believed; nothing where neither is to be said. */
export function headlineOf(where: Standing, facts: SpokenOf): Headline | undefined {
  const { rig, vessel, lead } = facts;
  const { left, leftTo, leak, verdict } = where;
  if (lead && !lead.isOdd && isOffZero(where, vessel)) return { word: BOTH_SPENT };
  if (verdict.reasons[0] === "chlorine") return { word: verdictTitle(where, rig) };
  const isSpentLead = !lead && verdict.reasons[0] === "lead-spent";
  if (verdict.state === "change" || verdict.state === "finish" || isSpentLead) {
    if (leftTo === "hard" && left && left.high > 0 && rig.use !== "aquarium")
      return { litres: left, to: "to the stop point" };
    if (isSpentLead) return { word: SPENT };
    if (verdict.reasons[0] === "no-charge") return undefined;
    return { word: isAbove(where, vessel, "hard") ? DO_NOT_USE : verdictTitle(where, rig) };
  }
  const litres = shownLitres(where, rig);
  if (verdict.reasons.includes("odd-reading"))
    return litres && litres.high > 0 ? { word: LOOK_AGAIN, ifWrong: litres } : { word: LOOK_AGAIN };
  if (!litres) return undefined;
  return { litres, to: litres === leak ? "to the first leak" : "left" };
}

/** What the litres and the dates of a rig run to. */
export function markWords(where: Standing, rig: Pick<Rig, "use">): string {
  if (where.leftTo === "hard") return "stop point";
  return countsToLeak(where, rig) ? "first leak" : "limit";
}

/** Litres in the rig's own work. @example workWords(560, { jobName: "house", litresPerJob: 40, flow: 3 }) // "about 14 houses" */
export function workWords(
  litres: number,
  { jobName, litresPerJob, flow }: Pick<Rig, "jobName" | "litresPerJob" | "flow">,
): string {
  const jobs = litres / litresPerJob;
  if (jobs >= 1.5) return `about ${Math.round(jobs).toLocaleString("en")} ${jobName}s`;
  if (jobs >= 0.75) return `about one ${jobName}`;
  const minutes = litres / flow;
  if (minutes < 1) return litres > 0 ? "less than a minute at your flow" : "";
  return minutes < 1.5 ? "about a minute at your flow" : `about ${Math.round(minutes)} minutes at your flow`;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
const days = (count: number) => (count === 1 ? "yesterday" : `${count} days ago`);

/** How old the log is, in few words; empty while it is fresh. */
export const ageWords = ({ sinceLog }: Standing): string =>
  sinceLog.days < 2 || sinceLog.litres <= 0 ? "" : `log ${sinceLog.days} days old`;

/** What the silence since the last log may hide; empty after a day that was logged. */
export function silenceWords(where: Standing, wording: Wording): string {
  if (ageWords(where) === "") return "";
  const { sinceLog, use } = where;
  const since =
    use.dayWithWater === undefined
      ? `Filled ${days(sinceLog.days)}, nothing logged`
      : `Last logged ${days(sinceLog.days)}`;
  return `${since}; about ${wording.litres(sinceLog.litres)} may have gone since.`;
}

/** What would be left, had a reading above the limit been wrong. */
function ifWrong({ left }: Standing, wording: Wording): string {
  return left && left.typical > 0 ? `If it was wrong, ${wording.litresRange(left.low, left.high)} are left.` : "";
}

/** A bed before the last that is spent, or reads above its mark and is to be looked at again. */
export interface SpentLead {
  readonly vessel: Vessel;
  readonly standing: Standing;
  /** The one that stands behind it. */
  readonly next: Vessel;
  readonly isOdd: boolean;
}

/** Of what a verdict speaks. */
export interface SpokenOf {
  readonly rig: Rig;
  readonly vessel: Vessel;
  /** The spent bed before it, in a train that has one. */
  readonly lead?: SpentLead | undefined;
  /** What stands before the resin and asks for a hand. */
  readonly before?: BeforeResin | undefined;
}

/** Whether the last group of a bed is at or above a mark. */
const isAbove = (where: Standing, { marks }: Vessel, mark: "watch" | "hard") =>
  (where.groups[where.groups.length - 1]?.ec25 ?? 0) >= marks[mark] / scaleFactor(marks.scale);
/** Whether a bed lets more through than its watch point. */
const isOffZero = (where: Standing, vessel: Vessel) => isAbove(where, vessel, "watch");

/** A cation or an anion bed is filled anew where it stands. */
const staysPut = ({ charge }: Standing) => !rotates([charge]);

/** What a bed before the last is called, by its beads. */
const BED = { mixed: "lead", cation: "cation bed", anion: "anion bed" } as const;

/** What a spent lead asks for: both off zero means that both are spent. */
function leadWords(where: Standing, { vessel, lead }: SpokenOf, wording: Wording): string {
  const spent = lead?.vessel ?? vessel;
  const standing = lead?.standing ?? where;
  const named = `The ${BED[standing.charge.beads ?? "mixed"]}, ${spent.name}`;
  const read = standing.outputs.length > 0 ? `, ${lastReadWords(standing, spent, wording)},` : ", by the count,";
  if (lead?.isOdd)
    return `${named}, ${lastReadWords(standing, spent, wording)}, above your limit. Let it run a minute and look again; if it stands, ${staysPut(standing) ? `fill ${spent.name} anew` : `${lead.next.name} leads and fresh resin hangs behind`}.`;
  if (lead && isOffZero(where, vessel))
    return `${named}${read} and ${vessel.name} behind it are both off zero: both are spent. Replace both.`;
  if (staysPut(standing))
    return `${named}${read} is spent. ${lead ? `${vessel.name} still guards: fill` : "Fill"} ${spent.name} anew, in its own place.`;
  return `${named}${read} is spent. ${lead ? `${lead.next.name} still guards: move it` : "Move the next one"} to the front and hang fresh resin behind.`;
}

/** One reason in words that say what to do. */
export function reasonWords(reason: Reason, where: Standing, facts: SpokenOf, wording: Wording): string {
  const { rig, vessel } = facts;
  const on = new OnTheMeter(where, vessel, wording);
  const isAquarium = rig.use === "aquarium";
  const left = leftWords(where, facts, wording);
  const used = tidy(100 * where.promisedShare);
  switch (reason) {
    case "lead-spent":
    case "lead-odd":
      return leadWords(where, facts, wording);
    case "no-charge":
      return "No charge is in use: fill the vessel.";
    case "above-hard":
      return `Out ${on.output}, ${on.against("hard")}. ${isAquarium ? "This water does harm." : "This water leaves marks."} ${where.isExplained ? "Change the resin." : `Don’t use it. ${unexplained(where)} Else change the resin.`}`;
    case "above-limit":
      if (on.isAboveHard)
        return `Out ${on.output}, ${on.against("hard")}. Don’t use this water; read again, and if it stands, change the resin.`;
      return isAquarium
        ? `Out ${on.output}, your limit is ${on.mark("limit")}: what leaks now harms unseen. Change before you fill on.`
        : `Out ${on.output}, your limit is ${on.mark("limit")}. ${left ? `${left} ` : ""}Finish today and rinse longer.`;
    case "odd-reading":
      return `Out ${on.output}${on.isAboveHard ? `, ${on.against("hard")}. Don’t use this water` : `; your limit is ${on.mark("limit")}`}. Let it run a minute and look again; look at the bypass and the probe.`;
    case "above-watch":
      return `Out ${on.output}: ${on.against("watch")}, the limit is ${on.mark("limit")}. ${left}`;
    case "capacity-used":
      return `${used} % of the capacity is used, and you act at ${tidy(100 * (vessel.marks.capacityUsed ?? 1))} %: silica goes first, unseen by the meter.`;
    case "not-logged":
      return `${silenceWords(where, wording)} The limit may be passed: log a reading.`;
    case "nearly-used":
      return `${where.outputs.length > 0 ? `Out ${on.output}. ` : ""}${left} About ${wording.litres(where.pace)} may go through before the next reading: read before each ${rig.jobName}.`;
    case "chlorine":
    case "membrane-climbs":
      return beforeWords(reason, facts, wording);
  }
}

const percent = (share: number) => `${tidy(Number((100 * share).toPrecision(2)))} %`;

/** What stands before the resin and asks for a hand. */
function beforeWords(reason: "chlorine" | "membrane-climbs", { rig, before }: SpokenOf, wording: Wording): string {
  if (reason === "membrane-climbs") return climbingWords(before?.climbing);
  const since = before?.chlorineAt === undefined ? "" : ` since ${wording.day(before.chlorineAt)}`;
  const harm = rig.use === "aquarium" ? "kills what swims, and eats the membrane" : "eats the membrane";
  return `Chlorine shows behind the carbon${since}: it ${harm}. Don’t fill; change the carbon, then test again.`;
}

/** A membrane that climbs above its own usual. */
const climbingWords = (climbing: BeforeResin["climbing"]) =>
  climbing
    ? `The membrane lets ${percent(climbing.passage)} through, usually ${percent(climbing.usual)}: check it before the resin pays for it.`
    : "The membrane lets more through than usual: check it before the resin pays for it.";

/** Why a fine verdict is fine. */
function fineWords(where: Standing, facts: { readonly rig: Rig; readonly vessel: Vessel }, wording: Wording): string {
  const left = leftWords(where, facts, wording);
  if (where.outputs.length === 0)
    return `No output reading of this charge yet. By the count ${left.charAt(0).toLowerCase()}${left.slice(1)}`;
  const on = new OnTheMeter(where, facts.vessel, wording);
  return `Out ${on.output}, below your watch point of ${on.mark("watch")}. ${left}`;
}

/** What readings say of the vessel itself: water that goes round the beads since the refill. */
export function bypassWords({ shape, outputs }: Standing): string {
  if (shape.bypass < 0.002 || outputs.length === 0) return "";
  return `About ${tidy(Number((100 * shape.bypass).toPrecision(2)))} % of the feed goes round the beads since the refill: look at the seal, the riser and the valve.`;
}

/** The last reading in few words, as it was typed. @example lastReadWords(where, vessel, wording) // "out 38 ppm NaCl" */
export const lastReadWords = (where: Standing, vessel: Vessel, wording: Wording): string =>
  where.outputs.length === 0 ? "" : `out ${new OnTheMeter(where, vessel, wording).output}`;

/** What is left out of the count until somebody confirms it. */
export function heldBackWords({ heldBack }: Standing, { marks }: Vessel, wording: Wording): string {
  const feed = heldBack.feeds[heldBack.feeds.length - 1];
  if (feed) {
    const on = (ec25: number) => tidy(onScale(ec25, marks.scale));
    return `A feed of ${on(feed.ec25)} is far from the usual ${on(feed.usual)} ${wording.scaleUnit(marks.scale)} at the resin: it doesn’t count until you confirm it or read it again.`;
  }
  return heldBack.totals.length > 0
    ? "A meter total is far above the last one: its water doesn’t count until you confirm it, or the next total bears it out."
    : "";
}

/** Water that nobody typed: unknown, not none. */
export function unloggedWords({ unlogged }: Pick<Standing, "unlogged">): string {
  if (unlogged.some(({ isFirstTotal }) => isFirstTotal))
    return "What the meter showed before its first total is not known, so the water until then isn’t counted.";
  if (unlogged.length === 0) return "";
  return unlogged.length === 1
    ? "Before one of its readings nobody typed the water: it is unknown, not none."
    : `Before ${unlogged.length} of its readings nobody typed the water: it is unknown, not none.`;
}

/** A rise that the curve does not make; which spoke is said, the belief or the readings' own trend. */
export function riseWords(where: Standing, vessel: Vessel, wording: Wording): string {
  const { rise, verdict, left } = where;
  if (!rise || verdict.state === "change") return "";
  const unlike = "It rises more than beads at this load would: a wide front, or water that goes round them.";
  if (where.isByTrend) return `${unlike} The litres are those of this rise, not of the count.`;
  const { low, high } = rise.litres;
  if (left || high <= 0) return unlike;
  const on = new OnTheMeter(where, vessel, wording);
  return `${unlike} As it rises, ${on.mark("hard")} ${wording.scaleUnit(on.scale)} comes in ${wording.litresRange(low, high)}.`;
}

/** What would tell a carbon dioxide that nobody measured. */
const CARBON_BY: Readonly<Record<NonNullable<Standing["carbon"]>["by"], string>> = {
  nothing: "your tap’s KH and pH",
  ph: "your tap’s KH",
  alkalinity: "your tap’s pH",
  "ph-and-alkalinity": "",
  measured: "",
};
/** A range that a measurement would narrow by less isn't worth it. */
const WORTH_MEASURING = 0.9;

/** A carbon dioxide that nobody measured: named, with what a measurement would leave of the range. */
export function carbonWords(where: Standing, rig: Pick<Rig, "use">, wording: Wording): string {
  const { carbon } = where;
  const all = shownLitres(where, rig);
  if (!carbon || !all || all.high <= 0) return "";
  const { low, high } = carbon.narrowed;
  const name = "How much carbon dioxide your tap brings was never measured, and no membrane holds it back";
  if (high - low > WORTH_MEASURING * (all.high - all.low)) return `${name}.`;
  return `${name}: with ${CARBON_BY[carbon.by]} it would be about ${wording.litresRange(low, high)}.`;
}

const SHARES = [
  { below: 0.15, words: "a tenth" },
  { below: 0.225, words: "a fifth" },
  { below: 0.29, words: "a quarter" },
  { below: 0.415, words: "a third" },
  { below: 0.6, words: "half" },
] as const;
/** A share in the words of a trade. @example shareWords(0.24) // "a quarter" */
export const shareWords = (share: number): string =>
  SHARES.find(({ below }) => share < below)?.words ?? "more than half";

/** A limit that carbonic acid alone meets. */
export function plateauWords({ plateau }: Standing, { marks }: Vessel, wording: Wording): string {
  if (!plateau) return "";
  const on = (ec25: number) => tidy(Number(onScale(ec25, marks.scale).toPrecision(2)));
  return `About ${on(plateau.ec25)} ${wording.scaleUnit(marks.scale)} of what comes out at the end is carbonic acid: it dries away without a spot. Your mark of ${tidy(marks.limit)} ends the charge ${shareWords(plateau.early)} early; a mark of ${on(plateau.raised)} would not.`;
}

export interface VerdictWords {
  readonly title: string;
  /** The weightiest reason. */
  readonly reason: string;
  /** Whatever else is to be known, each in a sentence. */
  readonly more: readonly string[];
}

/**
 * A verdict in the trade's words.
 * @example verdictWords(where, facts, wording).title // "Fine"
 */
export function verdictWords(where: Standing, facts: SpokenOf, wording: Wording): VerdictWords {
  const [first, ...others] = where.verdict.reasons;
  // Beside a reading above the watch point, or a long silence, the litres have been said.
  const saidBy: readonly (Reason | undefined)[] = ["above-watch", "not-logged"];
  const rest = others.filter((reason) => reason !== "nearly-used" || !saidBy.includes(first));
  const reason = capital(
    first === undefined ? fineWords(where, facts, wording) : reasonWords(first, where, facts, wording),
  );
  const seen = where.outputs.length > 0 ? `Out ${new OnTheMeter(where, facts.vessel, wording).output}` : undefined;
  // What was read is said once.
  const once = (sentence: string) =>
    seen && reason.startsWith(seen) && sentence.startsWith(`${seen}. `) ? sentence.slice(seen.length + 2) : sentence;
  const more = [
    first === "odd-reading" ? ifWrong(where, wording) : "",
    ...rest.map((each) => once(reasonWords(each, where, facts, wording))),
    ...(where.verdict.reasons.includes("not-logged") ? [] : [silenceWords(where, wording)]),
    where.rise ? riseWords(where, facts.vessel, wording) : bypassWords(where),
    heldBackWords(where, facts.vessel, wording),
    unloggedWords(where),
    carbonWords(where, facts.rig, wording),
    plateauWords(where, facts.vessel, wording),
  ].filter((sentence) => sentence !== "");
  return {
    title: verdictTitle(where, facts.rig, facts.lead),
    reason,
    more,
  };
}
