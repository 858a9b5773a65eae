import { View } from "@tamagui/core";
import type { Visit } from "@winter-bead/core";
import { takeBack, useRecords } from "../../data/store";
import { useSettings } from "../../data/settings";
import { TextButton } from "../../ui/boxes";
import { dayMonthYear, timeOfDay } from "../../ui/dates";
import { showToast } from "../../ui/toast";
import { Small, Strong } from "../../ui/words";
import { visitInWords } from "./visit-in-words";

/** Visits that no charge counts, each with what can be done about it. */
export function LooseVisits({
  label,
  visits,
  correct,
}: {
  readonly label: string;
  readonly visits: readonly Visit[];
  /** What correcting one is called here; absent where there is nothing to correct it by. */
  readonly correct?: string;
}) {
  const { units } = useSettings();
  const { records } = useRecords("visits");
  const { records: meters } = useRecords("meters");
  const remove = async (id: string) => {
    const record = records.find((each) => each.id === id);
    if (!record) return;
    const { undo } = await takeBack("visits", record);
    showToast({ words: "Taken back; its history stays.", undo });
  };
  return (
    <View role="list" aria-label={label}>
      {visits.map((visit) => {
        const moment = Date.parse(visit.at);
        const when = `${dayMonthYear(moment)}, ${timeOfDay(moment)}`;
        return (
          <View
            key={visit.id}
            role="listitem"
            flexDirection="row"
            flexWrap="wrap"
            columnGap="$4"
            borderTopColor="$line"
            borderTopWidth={1}
            paddingVertical="$2"
          >
            <Strong>{when}</Strong>
            <Small flex={1} minWidth={160}>
              {visitInWords(visit, meters, units)}
            </Small>
            {correct ? (
              <TextButton href={`/history/visit?id=${visit.id}`} label={`${correct}: the visit of ${when}`}>
                {correct}
              </TextButton>
            ) : null}
            <TextButton onPress={() => void remove(visit.id)} label={`Take back the visit of ${when}`}>
              Take back
            </TextButton>
          </View>
        );
      })}
    </View>
  );
}
