import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import {
  explainDaysToSettle,
  explainTapRange,
  onScale,
  scaleFactor,
  type Scale,
  type TapRange,
} from "@winter-bead/core";
import { useState } from "react";
import { bodyOf } from "../../data/acts";
import { change, useRecords } from "../../data/store";
import { EmptyState, HeavyButton, PlainButton, TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { monthLong } from "../../ui/dates";
import { dayOf, momentInWords, percent, scaleUnit, threeDigits } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Heading, Huge, Small, Strong, Title } from "../../ui/words";
import { FeedTestForm } from "./FeedTestForm";
import { HiddenLoadPart } from "./HiddenLoad";
import { RangeChart } from "./RangeChart";
import { ReportSummary } from "./ReportSummary";
import { feedWords, type TapWater } from "./tap-water";

const HARDNESS = {
  low: "low for a piped supply",
  usual: "usual for a piped supply",
  high: "high for a piped supply",
} as const;

/** Low and high with their working, in the tap's own scale. */
function RangeLine({ range, scale }: { readonly range: TapRange; readonly scale: Scale }) {
  const end = (which: "low" | "high") => (
    <Explained explanation={explainTapRange(range, which)} testID={`explain-${which}`}>
      <Body>
        {which === "low" ? "Low " : "High "}
        <Strong textDecorationLine="underline" textDecorationStyle="dotted" testID={`range-${which}`}>
          {threeDigits(onScale(range[which], scale))}
        </Strong>
        {` ${scaleUnit(scale)}`}
      </Body>
    </Explained>
  );
  return (
    <View flexDirection="row" flexWrap="wrap" columnGap="$5">
      {end("low")}
      {end("high")}
    </View>
  );
}

const dayName = (dayOfYear: number) => {
  const date = new Date(2025, 0, dayOfYear);
  const third = date.getDate() <= 10 ? "early" : date.getDate() <= 20 ? "mid" : "late";
  return `${third} ${monthLong(date)}`;
};

function driftWords({ clear, perMonth }: NonNullable<TapRange["drift"]>, seasonKnown: boolean): string {
  if (!clear) return "No clear drift.";
  const moves = `${perMonth > 0 ? "rises" : "falls"} by ${percent(Math.abs(perMonth))} % a month`;
  return seasonKnown
    ? `Beyond the season it ${moves}: look whether the supply changed.`
    : `It ${moves}; over less than a year that may be the season.`;
}

function WhatItTells({ range }: { readonly range: TapRange }) {
  const { drift, season, days, moreDays } = range;
  return (
    <View gap="$1">
      <Explained explanation={explainDaysToSettle(range)} testID="explain-more">
        <Body testID="more-readings">
          {moreDays === 0
            ? `${days} days of readings: the typical is settled to 5 %.`
            : `${days} ${days === 1 ? "day" : "days"} of readings; about `}
          {moreDays === 0 ? null : (
            <Strong textDecorationLine="underline" textDecorationStyle="dotted">
              {moreDays} more {moreDays === 1 ? "day" : "days"}
            </Strong>
          )}
          {moreDays === 0 ? null : " would settle the typical to 5 %."}
        </Body>
      </Explained>
      {season ? (
        <Body testID="season-words">{`Over the year it swings ${percent(season.swing)} % either way, highest in ${dayName(season.peakDay)}.`}</Body>
      ) : (
        <Small>A season shows once readings span most of a year.</Small>
      )}
      {drift ? <Body testID="drift-words">{driftWords(drift, season !== undefined)}</Body> : null}
    </View>
  );
}

/** The planned range of a tap against what its readings say, and one tap to take it over. */
function TakeOver({ water }: { readonly water: TapWater }) {
  const { records } = useRecords("taps");
  const tap = records.find((each) => each.id === water.tap.id);
  const { range } = water;
  if (!tap || !range || range.days < 3) return null;
  const rounded = (ec25: number) => Number(onScale(ec25, tap.scale).toPrecision(3));
  const found = { low: rounded(range.low), typical: rounded(range.typical), high: rounded(range.high) };
  const differs = (["low", "typical", "high"] as const).some((key) => Math.abs(found[key] / tap[key] - 1) > 0.03);
  if (!differs) return <Small>Planning uses this range.</Small>;
  const takeOver = async () => {
    const { undo } = await change("taps", tap, { ...bodyOf(tap), ...found });
    showToast({ words: `${tap.name} is planned with ${found.low} to ${found.high} ${scaleUnit(tap.scale)}.`, undo });
  };
  return (
    <View gap="$2">
      <Body>{`Planning still uses ${threeDigits(tap.low)} to ${threeDigits(tap.high)}, typically ${threeDigits(tap.typical)} ${scaleUnit(tap.scale)}.`}</Body>
      <PlainButton onPress={() => void takeOver()} testID="take-over">
        {`Plan with ${threeDigits(found.low)} to ${threeDigits(found.high)}`}
      </PlainButton>
    </View>
  );
}

function Headline({ water }: { readonly water: TapWater }) {
  const { tap, range, readings } = water;
  const { scale } = tap;
  // The one typical that everything rests on; what the readings say is offered below.
  const typical = tap.typical / scaleFactor(scale);
  const last = readings[readings.length - 1];
  return (
    <View gap="$1">
      <View flexDirection="row" alignItems="baseline" gap="$2" flexWrap="wrap">
        <Huge testID="typical-feed">{threeDigits(onScale(typical, scale))}</Huge>
        <Strong>{`${scaleUnit(scale)} typically`}</Strong>
      </View>
      <Body>{`${scale === "ec" ? "" : `${threeDigits(typical)} µS/cm at 25 °C; `}${HARDNESS[feedWords(typical)]}.`}</Body>
      {range ? <RangeLine range={range} scale={scale} /> : null}
      {last ? (
        <Small>{`Last read ${momentInWords(last.at, clockNow())}: ${threeDigits(onScale(last.ec25, scale))} ${scaleUnit(scale)}`}</Small>
      ) : null}
    </View>
  );
}

const MOST_SHOWN = 8;
const CORRECTED_AT = { "feed-tests": "/water/feed-test", visits: "/history/visit" } as const;

/** Every reading and report of a tap, newest first: each can be looked at, dated, corrected and taken back. */
function WhatWasEntered({ water }: { readonly water: TapWater }) {
  const { tap, readings, reports } = water;
  const [open, setOpen] = useState(false);
  const [most, setMost] = useState(MOST_SHOWN);
  if (readings.length + reports.length === 0) return null;
  return (
    <View gap="$1">
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="what-was-entered">
        {open ? "Close" : "Look at, correct or take back what was entered"}
      </TextButton>
      {open ? (
        <View role="list" aria-label={`Readings of ${tap.name}`} testID="tap-readings">
          {[...reports].reverse().map((report) => (
            <View key={report.id} role="listitem">
              <TextButton href={`/water/report?id=${report.id}`}>
                {`Report sampled ${dayOf(report.sampledOn)}${report.origin ? `, ${report.origin}` : ""}`}
              </TextButton>
            </View>
          ))}
          {[...readings]
            .reverse()
            .slice(0, most)
            .map(({ of, id, at, ec25 }) => (
              <View key={`${id} ${at} ${ec25}`} role="listitem">
                <TextButton href={`${CORRECTED_AT[of]}?id=${id}`}>
                  {`${momentInWords(at, clockNow())}: ${threeDigits(onScale(ec25, tap.scale))} ${scaleUnit(tap.scale)}${of === "visits" ? ", on a visit" : ""}`}
                </TextButton>
              </View>
            ))}
        </View>
      ) : null}
      {open && readings.length > most ? (
        <TextButton onPress={() => setMost(most + 4 * MOST_SHOWN)}>Earlier ones</TextButton>
      ) : null}
    </View>
  );
}

/** One tap: what it is like, what the meter doesn't see in it, and the next reading. */
export function TapDetail({
  water,
  all,
  heading = "h2",
}: {
  readonly water: TapWater;
  readonly all: readonly TapWater[];
  /** The place's own heading, or one under it. */
  readonly heading?: "h1" | "h2";
}) {
  const { tap, range, readings, described, values, reports } = water;
  const [asked, setAdding] = useState(false);
  const adding = asked || readings.length === 0;
  const report = reports[reports.length - 1];
  return (
    <View gap="$5" testID="tap-detail">
      <Title render={heading}>{tap.name}</Title>
      <Headline water={water} />
      {range && readings.length > 0 ? (
        <View gap="$2">
          <RangeChart
            readings={readings}
            range={range}
            scale={tap.scale}
            label={`${readings.length} readings of ${tap.name}, ${threeDigits(onScale(range.low, tap.scale))} to ${threeDigits(onScale(range.high, tap.scale))} ${scaleUnit(tap.scale)}`}
          />
          <WhatItTells range={range} />
          <TakeOver water={water} />
        </View>
      ) : (
        <EmptyState title="No reading of this tap yet">
          Test it over several days: one reading is a number, several are a range, and the range is what a charge’s life
          rests on.
        </EmptyState>
      )}
      {adding ? (
        <FeedTestForm water={water} all={all} />
      ) : (
        <HeavyButton onPress={() => setAdding(true)} testID="add-reading">
          Add a reading
        </HeavyButton>
      )}
      {described && values ? <HiddenLoadPart answer={described} values={values} /> : null}
      <View gap="$2">
        <Heading>Water report</Heading>
        {report && described ? (
          <View gap="$1">
            <Body>{`${report.origin ?? "Typed in"}, sampled ${dayOf(report.sampledOn)}.`}</Body>
            <ReportSummary answer={described} values={values!} />
          </View>
        ) : (
          <Body color="$soft">
            None yet. The supplier’s yearly report, or a laboratory’s, tells the ions, alkalinity, pH and silica.
          </Body>
        )}
        <PlainButton href={`/water/report?tap=${tap.id}`} testID="open-report">
          {report ? "A newer report" : "Enter or fetch a report"}
        </PlainButton>
      </View>
      <WhatWasEntered water={water} />
      <PlainButton href={`/lab?tap=${tap.id}`} testID="open-lab">
        Watch a bed give way in this water
      </PlainButton>
      <TextButton href={`/setup/tap?id=${tap.id}`}>Change this tap</TextButton>
    </View>
  );
}
