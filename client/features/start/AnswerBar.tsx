import { verdictTitle, workWords } from "@winter-bead/core";
import { dateInWords, litresRange, localDate, type Units } from "../../ui/format";
import { AnswerFrame } from "../../ui/AnswerFrame";
import { Body, Huge, Small, Strong } from "../../ui/words";
import type { StartAnswer } from "./answer";

/** Houses and the day on which they are through. */
function underLitres({ facts, left, dates }: StartAnswer, now: number): string {
  if (!left) return "";
  const { rig } = facts;
  const [few, many] = [left.low, left.high].map((litres) => Math.floor(litres / rig.litresPerJob));
  const jobs = many! >= 1 ? `${few} to ${many} ${rig.jobName}s` : workWords(left.typical, rig);
  const day = (iso: string) => dateInWords(iso, localDate(now));
  const until = dates
    ? dates.early === dates.late
      ? `to ${day(dates.likely)}`
      : `to about ${day(dates.likely)}, ${day(dates.early)} to ${day(dates.late)}`
    : "";
  return [jobs, until].filter(Boolean).join(" · ");
}

/** The answer over the three questions. */
export function AnswerBar({
  answer,
  open,
  trouble,
  now,
  units,
}: {
  readonly answer: StartAnswer | undefined;
  /** What is still to be said first. */
  readonly open: string | undefined;
  readonly trouble: string | undefined;
  readonly now: number;
  readonly units: Units;
}) {
  const { left, standing } = answer ?? {};
  return (
    <AnswerFrame testID="start-answer" role="status">
      {trouble ? (
        <Body color="$rowan">{trouble}</Body>
      ) : left && answer && !open ? (
        <>
          <Small>
            {answer.isFirst
              ? "First, by its conductivity alone, your vessel gives about"
              : "From this tap your vessel gives about"}
          </Small>
          <Huge fontSize="$6" lineHeight="$6" testID="start-litres">
            {litresRange(left.low, left.high, units)}
          </Huge>
          <Small color="$ink" testID="start-under">
            {answer.isFirst ? "Its carbon dioxide is being counted…" : underLitres(answer, now)}
          </Small>
        </>
      ) : standing && answer && !open ? (
        <Strong>
          {standing.feedMeetsLimit
            ? "Your tap’s water meets this limit as it is: it needs no resin for it."
            : verdictTitle(standing, answer.facts.rig)}
        </Strong>
      ) : (
        <>
          <Strong fontSize="$3">How many litres does your vessel give?</Strong>
          <Body>{open ?? "One moment…"}</Body>
        </>
      )}
    </AnswerFrame>
  );
}
