import { View } from "@tamagui/core";
import type { Standing, Visit } from "@winter-bead/core";
import { bodyOf } from "../../data/acts";
import { useSettings } from "../../data/settings";
import { change, useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";
import { timeOfDay } from "../../ui/dates";
import { litres, localDate, momentInWords } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body } from "../../ui/words";
import type { RigView } from "../rack/useRigs";
import { askedAbout, WORDS_FOR_WATER, type WordForWater } from "./asks";

const NOON = 12;

/** @example sinceInWords(thisMorning, now) // "this morning" */
function sinceInWords(at: number, now: number): string {
  if (localDate(at) !== localDate(now)) return momentInWords(at, now);
  return new Date(at).getHours() < NOON ? "this morning" : timeOfDay(at);
}

/** The question about water that nobody typed, where a word tells more than nothing. */
function questionOf(
  { charge, ledger: _, ...where }: Standing,
  { since, at }: NonNullable<ReturnType<typeof askedAbout>>,
  now: number,
) {
  const from = since === Date.parse(charge.filledAt) ? "since the filling" : `since ${sinceInWords(since, now)}`;
  const isNewest = at === where.outputs.at(-1)?.at;
  return isNewest ? `Used ${from}?` : `Used ${from}, until ${momentInWords(at, now)}?`;
}

/** Asks once, in a word, about water that nobody typed; until it is said it is unknown. */
export function WaterUnknown({ view }: { readonly view: RigView }) {
  const { facts, assessment } = view;
  const standing = assessment?.standing;
  const { units } = useSettings();
  const { records } = useRecords("visits");
  if (!standing || view.asOf !== undefined) return null;
  const { rig } = facts;
  const asked = askedAbout(standing);
  const visit = asked && records.find(({ id }) => id === asked.visitId);
  const say = async (word: WordForWater) => {
    if (!visit) return;
    const jobs = WORDS_FOR_WATER[word];
    const water: Visit["water"] = { by: "jobs", jobs, litresPerJob: rig.litresPerJob };
    const { undo } = await change("visits", visit, { ...bodyOf(visit), water });
    const counted =
      jobs === 0 ? "Counted: none." : `Counted as a guess: about ${litres(jobs * rig.litresPerJob, units)}.`;
    showToast({ words: counted, undo });
  };
  if (!visit)
    return standing.unlogged.length > 0 ? (
      <TextButton href={`/history/charge?id=${standing.charge.id}`} testID="say-start-total">
        Say what the meter showed at the filling
      </TextButton>
    ) : null;
  const answers: Readonly<Record<WordForWater, string>> = { none: "None", little: "A little", job: `A ${rig.jobName}` };
  return (
    <View flexDirection="row" flexWrap="wrap" alignItems="center" columnGap="$4" testID="water-unknown">
      <Body fontWeight="700">{questionOf(standing, asked, facts.now)}</Body>
      <View flexDirection="row" columnGap="$4" role="group" aria-label="Water used, in a word">
        {(Object.keys(answers) as WordForWater[]).map((word) => (
          <TextButton key={word} onPress={() => void say(word)} testID={`used-${word}`}>
            {answers[word]}
          </TextButton>
        ))}
      </View>
    </View>
  );
}
