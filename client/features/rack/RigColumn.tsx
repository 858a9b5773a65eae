import { View } from "@tamagui/core";
import { useSettings } from "../../data/settings";
import { Pressable } from "../../ui/boxes";
import { dateInWords, localDate } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import { ColumnsInARow, isTrain } from "./TrainDrawing";
import type { RigView } from "./useRigs";
import { VesselColumn } from "./VesselColumn";
import { headlineShown } from "./words";

/** The bead column of a rig as it stands now; of a train its columns in a row. */
export function StandingColumn(props: { readonly view: RigView; readonly height: number }) {
  return isTrain(props.view) ? <ColumnsInARow {...props} /> : <OneColumn {...props} />;
}

function OneColumn({ view, height }: { readonly view: RigView; readonly height: number }) {
  const { facts, assessment } = view;
  const { vessel, rig } = facts;
  const where = assessment?.standing;
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const label = where
    ? `${rig.name}: the front stands at ${percent(where.front.typical)} of the depth, between ${percent(where.front.low)} and ${percent(where.front.high)}`
    : `${rig.name}: ${assessment?.because ?? "not worked out yet"}`;
  return <VesselColumn vessel={vessel} standing={where} height={height} label={label} testID={`column-${rig.name}`} />;
}

/** Of what a rig's headline speaks. */
export const spokenOf = ({ facts, assessment }: Pick<RigView, "facts" | "assessment">) => ({
  ...facts,
  lead: assessment?.lead,
  before: assessment?.before,
});

/** The range beside its middle: only the numbers, the unit stands above. */
function RangeWords({ view }: { readonly view: RigView }) {
  const { units } = useSettings();
  const where = view.assessment?.standing;
  if (!where) return <Small>{view.assessment?.because ?? " "}</Small>;
  const headline = headlineShown(where, spokenOf(view), units);
  if (!headline?.rangeBelow) return <Small>{where.feedMeetsLimit ? "feed meets the limit" : " "}</Small>;
  return (
    <Small textAlign="left" testID={`left-${view.facts.rig.name}`}>
      {headline.rangeBelow}
    </Small>
  );
}

/** Whether a reading waits to be looked at again: what is said of the days to come holds only if it was wrong. */
export const isToBeLookedAt = ({ assessment }: RigView): boolean =>
  Boolean(assessment?.verdict?.reasons.includes("odd-reading"));

/** When the mark falls: the likely day, with the early and the late one. */
export function datesInWords(view: RigView): string {
  const { dates, because, standing, verdict } = view.assessment ?? {};
  if (verdict?.state === "change") return "now";
  const today = localDate(view.facts.now);
  if (dates) return dateInWords(dates.likely, today);
  // Above the limit without litres to believe in there is nothing to date.
  if (verdict?.state === "finish") return "no date";
  return standing ? (because ?? "no date") : "";
}

export function dateRange(view: RigView): string {
  const { dates, verdict } = view.assessment ?? {};
  if (!dates || verdict?.state === "change") return "";
  const today = localDate(view.facts.now);
  const [early, late] = [dateInWords(dates.early, today), dateInWords(dates.late, today)];
  return early === late ? early : `${early} to ${late}`;
}

/** One vessel on the wall: litres left above it, its name and date below. */
export function RigColumn({
  view,
  height,
  selected,
  onPress,
}: {
  readonly view: RigView;
  readonly height: number;
  readonly selected: boolean;
  readonly onPress: () => void;
}) {
  const { units } = useSettings();
  const where = view.assessment?.standing;
  const headline = where && headlineShown(where, spokenOf(view), units);
  const { rig } = view.facts;
  const aloud = headline
    ? [
        `${headline.big} ${headline.unit} ${headline.small}`.trim(),
        headline.range,
        isToBeLookedAt(view) ? "" : datesInWords(view),
      ]
    : [view.assessment?.because ?? "not worked out yet"];
  return (
    <Pressable
      onPress={onPress}
      aria-pressed={selected}
      aria-label={`${rig.name}: ${aloud.filter(Boolean).join(", ")}`}
      alignItems="flex-start"
      justifyContent="space-between"
      gap="$1"
      flexGrow={1}
    >
      <View>
        {headline?.isWord ? (
          <Strong fontSize="$3" textAlign="left" testID={`word-${rig.name}`}>
            {headline.big}
          </Strong>
        ) : (
          <View flexDirection="row" alignItems="baseline" gap="$1">
            <Body fontSize="$5" lineHeight="$5" fontWeight="800">
              {headline?.big ?? "–"}
            </Body>
            <Strong>{headline?.unit ?? ""}</Strong>
          </View>
        )}
        <RangeWords view={view} />
      </View>
      <StandingColumn view={view} height={height} />
    </Pressable>
  );
}
