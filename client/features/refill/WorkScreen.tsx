import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { LOOK, type Found } from "@winter-bead/core";
import { guideFor, usualWays, type GuidedWork } from "@winter-bead/core/src/refill";
import { useLocalSearchParams } from "expo-router";
import { takenBack } from "../../data/acts";
import { useSettings } from "../../data/settings";
import { act, useRecords } from "../../data/store";
import { TextButton } from "../../ui/boxes";
import { momentInWords, scaleUnit, shown, threeDigits, type Units } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body, Small, Strong } from "../../ui/words";
import { useWorks } from "./useGuide";
import { guidedWords } from "./words";

/** What was found at a step, in words. */
function foundWords(found: Found | undefined, units: Units): string {
  if (!found) return "";
  const { parts, tools, output, total, resinLitres, newSeals, pureWater, look } = found;
  const resin = resinLitres === undefined ? undefined : shown("resinVolume", resinLitres, units);
  const meter = total === undefined ? undefined : shown("volume", total, units);
  return [
    tools === undefined ? "" : `${tools} tools`,
    parts === undefined ? "" : `${parts} loose parts`,
    output === undefined ? "" : `${threeDigits(output.value)}${output.scale ? ` ${scaleUnit(output.scale)}` : ""} out`,
    meter ? `water meter ${meter.text} ${meter.unit}` : "",
    resin ? `${resin.text} ${resin.unit} put in` : "",
    newSeals === undefined ? "" : newSeals ? "seals renewed" : "seals greased",
    pureWater === undefined ? "" : pureWater ? "pure water" : "tap water",
    look ? LOOK.of[look].toLowerCase() : "",
  ]
    .filter(Boolean)
    .join(", ");
}

const OUTCOMES = {
  done: "done",
  skipped: "left out",
  failed: "did not go well",
  waiting: "a time was started",
} as const;

const timeOfDay = (instant: string) =>
  new Date(instant).toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" });

/** Each step of the work by its name, in the order of the guide. */
function useTitles(work: GuidedWork | undefined): ReadonlyMap<string, string> {
  const { records: vessels } = useRecords("vessels");
  const { records: rigs } = useRecords("rigs");
  if (!work) return new Map();
  const vessel = vessels.find(({ id }) => id === work.vesselId);
  const rig = rigs.find(({ id }) => id === work.rigId);
  const kind = vessel?.kind ?? "screw-head-tank";
  const steps = guideFor({
    ...{ guided: work.guided, kind, use: rig?.use ?? "glass", isEmpty: false, behindMembrane: false, isHeavy: true },
    ways: work.ways ?? usualWays(kind, vessel?.fillFraction ?? 1),
  });
  return new Map(steps.map(({ id, title }) => [id, title]));
}

/** A piece of guided work, step by step, as it was noted; each can be taken back. */
export function WorkPlace() {
  const { id } = useLocalSearchParams<{ id?: string }>();
  const { works, records } = useWorks();
  const { records: rigs } = useRecords("rigs");
  const { units } = useSettings();
  const work = works.find((each) => each.id === id);
  const titles = useTitles(work);
  if (!work) return <NotHere what="refill" href="/weeks" way="To the weeks" />;
  const own = records
    .filter((each) => each.workId === work.id && each.step !== "end" && each.step !== "given-up")
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  const takeBack = async (record: (typeof own)[number]) => {
    const done = await act("A step taken back", [takenBack("refill-steps", record)]);
    showToast({ words: "Taken back.", undo: done.undo });
  };
  const ended = { finished: "All of it was done.", "given-up": "It was given up." };
  return (
    <Screen title={guidedWords(work.guided, rigs.find((rig) => rig.id === work.rigId)?.name ?? "a rig")}>
      <View gap="$3">
        <Body color="$soft">
          {`Begun ${momentInWords(Date.parse(work.startedAt), clockNow())}. ${work.ended ? ended[work.ended] : "Not ended yet."}`}
        </Body>
        <View>
          {own.map((record) => (
            <View
              key={record.id}
              testID="noted-step"
              flexDirection="row"
              justifyContent="space-between"
              alignItems="center"
              gap="$3"
              borderBottomColor="$line"
              borderBottomWidth={1}
              paddingVertical="$1"
            >
              <View flexShrink={1}>
                <Strong>{titles.get(record.step) ?? "Another way was chosen"}</Strong>
                <Small>
                  {[
                    `${timeOfDay(record.at)}, ${OUTCOMES[record.outcome as keyof typeof OUTCOMES]}`,
                    foundWords(record.found, units),
                    record.note ?? "",
                  ]
                    .filter(Boolean)
                    .join(". ")}
                </Small>
              </View>
              <TextButton
                onPress={() => void takeBack(record)}
                label={`Take back: ${titles.get(record.step) ?? record.step}`}
              >
                Take back
              </TextButton>
            </View>
          ))}
        </View>
      </View>
    </Screen>
  );
}
