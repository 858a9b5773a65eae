import type { ReadingGroup } from "../belief/groups";
import type { ThreeOf } from "../life/life-range";
import type { Rig } from "../rig/rig.record";
import { rotates } from "../rig/train-edits";
import type { Vessel } from "../vessel/vessel.record";
import type { Standing } from "./standing";
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
}

const TITLES: Readonly<Record<State, string>> = {
  fine: "Fine",
  watch: "Watch",
  finish: "Finish, rinse more",
  change: "Change now",
};

/** Two words for a verdict. */
export function verdictTitle({ verdict }: Standing, { use }: Pick<Rig, "use">, lead?: SpentLead): string {
  if (verdict.reasons[0] === "odd-reading") return "Watch: read it again";
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
    const alone = group === undefined || group.count === 1;
    const value = last === undefined ? "" : tidy(last.value);
    this.output = alone
      ? `${value} ${unit}`
      : `${value} ${unit} (${tidy(onScale(group.ec25, this.scale))} the middle of ${group.count} readings)`;
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

/** What a standing leaves, in words: to which mark, and nothing where nothing is to be said. */
export function leftWords(
  where: Standing,
  { rig, vessel }: { readonly rig: Rig; readonly vessel: Vessel },
  wording: Wording,
): string {
  if (where.feedMeetsLimit) return "The feed itself meets your limit, so there is nothing to count down.";
  if (!where.left)
    return where.leftTo === "hard"
      ? "By the count it should hold longer: look at the bypass, the seal and the feed."
      : "";
  if (where.leak && where.leftTo === "limit" && rig.use === "aquarium")
    return `${wording.litresRange(where.leak.low, where.leak.high)} left until anything leaks.`;
  const range = wording.litresRange(where.left.low, where.left.high);
  const on = new OnTheMeter(where, vessel, wording);
  const unit = wording.scaleUnit(on.scale);
  return where.leftTo === "hard"
    ? `${range} left before your stop point of ${on.mark("hard")} ${unit}.`
    : `${range} left to your limit of ${on.mark("limit")} ${unit}.`;
}

/** The number to show large: of an aquarium the first leak, where its composition is known. */
export interface Headline {
  readonly litres: ThreeOf<number>;
  /** @example "left", "to the stop point", "to the first leak" */
  readonly to: string;
}

/** What a rig has left, for its column; nothing where no litres are to be shown. */
export function headlineOf(where: Standing, { rig }: { readonly rig: Rig }): Headline | undefined {
  const { left, leftTo, leak, rise } = where;
  if (leftTo === "hard") {
    const litres = left ?? rise?.litresToHard;
    return litres && litres.high > 0 && rig.use !== "aquarium" ? { litres, to: "to the stop point" } : undefined;
  }
  if (!left) return undefined;
  return leak && rig.use === "aquarium" ? { litres: leak, to: "to the first leak" } : { litres: left, to: "left" };
}

/** What the litres and the dates of a rig run to. */
export function markWords({ leftTo, leak }: Standing, { use }: Pick<Rig, "use">): string {
  if (leftTo === "hard") return "stop point";
  return leak && use === "aquarium" ? "first leak" : "limit";
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

/** What speaks against a reading above the limit. */
function tooEarly({ rise, left }: Standing, wording: Wording): string {
  if (rise || !left) return "";
  return left.typical > 0
    ? `, but by the count and the readings before there should be ${wording.litresRange(left.low, left.high)} left`
    : ", but the readings before were clean";
}

/** A bed before the last that is spent. */
export interface SpentLead {
  readonly vessel: Vessel;
  readonly standing: Standing;
  /** The one that stands behind it. */
  readonly next: Vessel;
}

/** Of what a verdict speaks. */
export interface SpokenOf {
  readonly rig: Rig;
  readonly vessel: Vessel;
  /** The spent bed before it, in a train that has one. */
  readonly lead?: SpentLead | undefined;
}

/** Whether a bed lets more through than its watch point. */
const isOffZero = (where: Standing, { marks }: Vessel) =>
  (where.groups[where.groups.length - 1]?.ec25 ?? 0) >= marks.watch / scaleFactor(marks.scale);

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
      return leadWords(where, facts, wording);
    case "no-charge":
      return "No charge is in use: fill the vessel.";
    case "above-hard":
      return `Out ${on.output}, ${on.against("hard")}. ${isAquarium ? "This water does harm." : "This water leaves marks."} Change the resin.`;
    case "above-limit":
      if (on.isAboveHard)
        return `Out ${on.output}, ${on.against("hard")}. Don’t use this water; read again, and if it stands, change the resin.`;
      return isAquarium
        ? `Out ${on.output}, your limit is ${on.mark("limit")}: what leaks now harms unseen. Change before you fill on.`
        : `Out ${on.output}, your limit is ${on.mark("limit")}. ${left} Finish today and rinse longer.`;
    case "odd-reading":
      return `Out ${on.output}, ${on.isAboveHard ? `${on.against("hard")}. Don’t use this water` : `your limit is ${on.mark("limit")}`}${tooEarly(where, wording)}. Let it run a minute and read again; look at the bypass and the probe.`;
    case "above-watch":
      return `Out ${on.output}: ${on.against("watch")}, the limit is ${on.mark("limit")}. ${left}`;
    case "capacity-used":
      return `${used} % of the capacity is used, and you act at ${tidy(100 * (vessel.marks.capacityUsed ?? 1))} %: silica goes first, unseen by the meter.`;
    case "not-logged":
      return `${silenceWords(where, wording)} The limit may be passed: log a reading.`;
    case "nearly-used":
      return `${where.outputs.length > 0 ? `Out ${on.output}. ` : ""}${left} About ${wording.litres(where.pace)} may go through before the next reading: read before each ${rig.jobName}.`;
  }
}

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

/** A rise over several visits is no front of usual width; what the readings' own trend gives is said where it is news. */
export function riseWords(where: Standing, vessel: Vessel, wording: Wording): string {
  const { rise, verdict, left, leftTo } = where;
  if (!rise || verdict.state === "change") return "";
  const slowly = "It rises slowly: a wide front, or water that goes round the beads.";
  const { low, high } = rise.litresToHard;
  const isSaid = left !== undefined && leftTo === "hard" && left.low <= high && low <= left.high;
  if (high <= 0 || isSaid) return slowly;
  const on = new OnTheMeter(where, vessel, wording);
  return `${slowly} As it rises, ${on.mark("hard")} ${wording.scaleUnit(on.scale)} comes in ${wording.litresRange(low, high)}.`;
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
    ...rest.map((each) => once(reasonWords(each, where, facts, wording))),
    ...(where.verdict.reasons.includes("not-logged") ? [] : [silenceWords(where, wording)]),
    where.rise ? riseWords(where, facts.vessel, wording) : bypassWords(where),
    heldBackWords(where, facts.vessel, wording),
  ].filter((sentence) => sentence !== "");
  return {
    title: verdictTitle(where, facts.rig, facts.lead),
    reason,
    more,
  };
}
