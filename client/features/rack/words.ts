import {
  headlineOf,
  verdictWords as wordsOf,
  workWords,
  type Headline,
  type Rig,
  type SpokenOf,
  type Species,
  type Standing,
  type State,
  type VerdictWords,
  type Wording,
} from "@winter-bead/core";
import { clockNow } from "../../data/clock";
import {
  capital,
  dateInWords,
  litres,
  litresRange,
  localDate,
  scaleUnit,
  shown,
  volumeRange,
  type Units,
} from "../../ui/format";

/** One word beside the ring. */
export const STATE_WORDS: Readonly<Record<State, string>> = {
  fine: "fine",
  watch: "watch",
  finish: "finish",
  change: "change",
};

/** The core's sentences in the user's units. */
export const wordingIn = (units: Units): Wording => ({
  litres: (value) => litres(value, units),
  litresRange: (low, high) => litresRange(low, high, units),
  scaleUnit,
  day: (at) => dateInWords(localDate(at), localDate(clockNow())),
});

/** The verdict in the trade's words, with its reason and whatever else is to be known. */
export const verdictWords = (facts: SpokenOf, where: Standing, units: Units): VerdictWords =>
  wordsOf(where, facts, wordingIn(units));

/** What stands large for a rig, in the user's units. */
export interface HeadlineShown {
  /** Litres or the word, the litres' unit, and what they run to; beside a word what would be left had the reading been wrong. */
  readonly big: string;
  readonly unit: string;
  readonly small: string;
  readonly isWord: boolean;
  /** "24 to 58 gal", beside a word those of `small`; and the same in the rig's work, empty beside a word. */
  readonly range: string;
  readonly work: string;
  /** The range's numbers with what they run to, without their unit. */
  readonly rangeBelow: string;
}

const asShown = (headline: Headline, rig: Rig, units: Units): HeadlineShown => {
  const { litres: left, word } = headline;
  if (word !== undefined) {
    const { ifWrong } = headline;
    const small = ifWrong ? `if it was wrong: ${litres(ifWrong.typical, units)}` : "";
    const range = ifWrong ? litresRange(ifWrong.low, ifWrong.high, units) : "";
    return { big: word, unit: "", small, isWord: true, range, work: "", rangeBelow: small };
  }
  const { text, unit } = shown("volume", left.typical, units);
  const { low, high } = volumeRange(left.low, left.high, units);
  return {
    ...{ big: text, unit, small: headline.to, isWord: false },
    range: litresRange(left.low, left.high, units),
    work: workWords(left.typical, rig),
    rangeBelow: `${low === high ? low : `${low} to ${high}`} ${headline.to}`,
  };
};

/** What stands large for a rig; nothing where neither litres nor a word are to be said. */
export function headlineShown(where: Standing, facts: SpokenOf, units: Units): HeadlineShown | undefined {
  const headline = headlineOf(where, facts);
  return headline && asShown(headline, facts.rig, units);
}

const SPECIES_WORDS: Readonly<Record<Species, string>> = {
  sio2: "silica",
  hco3: "carbon dioxide",
  nh4: "ammonia",
  na: "sodium",
  k: "potassium",
  mg: "magnesium",
  ca: "calcium",
  cl: "chloride",
  no3: "nitrate",
  so4: "sulphate",
};

/** Below this the two lives read the same. */
const WORTH_SAYING = 0.02;

export interface LeakWords {
  readonly range: string;
  readonly rest: string;
}

/** The second life in words: until anything leaks, beside the meter's; nothing where the two are one. */
export function leakWords({ rig }: { readonly rig: Rig }, where: Standing, units: Units): LeakWords | undefined {
  const { leak, left, leftTo } = where;
  if (!leak || !left || leftTo !== "limit") return undefined;
  const who = SPECIES_WORDS[leak.species];
  const meter = leak.isUnseen ? "the meter doesn’t show it" : "the meter shows it soon after";
  if (rig.use === "aquarium") {
    const limit = leak.isUnseen ? `; the meter reaches your limit in ${litresRange(left.low, left.high, units)}` : "";
    return { range: `${capital(who)} goes first`, rest: `, and ${meter}${limit}.` };
  }
  if (leak.typical > (1 - WORTH_SAYING) * left.typical) return undefined;
  const range =
    leak.high <= 0
      ? "By the count it leaks already"
      : `Until anything leaks: ${litresRange(leak.low, leak.high, units)}`;
  return { range, rest: `; ${who} goes first, and ${meter}.` };
}
