import { View } from "@tamagui/core";
import type { DayAhead, Rig } from "@winter-bead/core";
import { MARKED_FROM, oddsWords } from "@winter-bead/core/src/weeks";
import { Pressable } from "../../ui/boxes";
import { litresRange, type Units } from "../../ui/format";
import { Body, Small, Strong } from "../../ui/words";
import { Beads } from "./Beads";
import { JobBoxes } from "./JobBoxes";
import { dayNumber, fullDay, shortDay } from "./words";

/** One vessel's evening. */
export interface Cell {
  readonly rig: Rig;
  readonly day: DayAhead | undefined;
  /** The first day on which it may fall short: marked once. */
  readonly marked: boolean;
  /** Its refill is a rotation. */
  readonly isTrain: boolean;
}

export interface DayOfAll {
  readonly on: string;
  readonly cells: readonly Cell[];
  /** Jobs of all rigs that are booked, and those that only a usual week tells of. */
  readonly booked: number;
  readonly usual: number;
  /** It is known that nothing is to be done. */
  readonly isOff: boolean;
}

export const DAY_WIDTH = 112;

function cellWords({ rig, day, isTrain }: Cell, units: Units): string {
  if (!day) return `${rig.name}: not worked out yet`;
  const odds = day.outBy >= MARKED_FROM && day.litres > 0 ? `, ${oddsWords(day.outBy)} short` : "";
  return `${rig.name}: ${day.refilled ? `${isTrain ? "rotated" : "refilled"}, ` : ""}${litresRange(day.left.low, day.left.high, units)} left in the evening${odds}`;
}

function CellBox({ cell: { rig, day, marked, isTrain } }: { readonly cell: Cell }) {
  return (
    <View flex={1} alignItems="center" justifyContent="center" minWidth={0}>
      <View
        padding={4}
        borderWidth={2}
        borderRadius={8}
        borderColor={marked ? "$rowan" : "transparent"}
        alignItems="center"
        testID={marked ? `short-${rig.name}` : undefined}
      >
        <Beads share={day?.share} />
      </View>
      {marked && day ? (
        <Small color="$rowan" fontWeight="700" whiteSpace="nowrap">
          {`${oddsWords(day.outBy)} short`}
        </Small>
      ) : day?.refilled ? (
        <Small color="$ink" whiteSpace="nowrap">
          {isTrain ? "rotated" : "refilled"}
        </Small>
      ) : null}
    </View>
  );
}

/** A day of the weeks: its work, and what is left of each vessel in the evening. */
export function DayRow({
  day: { on, cells, booked, usual, isOff },
  isFirst,
  isOpen,
  isTarget,
  units,
  onPress,
}: {
  readonly day: DayOfAll;
  readonly isFirst: boolean;
  readonly isOpen: boolean;
  /** A booking is held over it. */
  readonly isTarget: boolean;
  readonly units: Units;
  readonly onPress: () => void;
}) {
  const jobs = `${Math.round(booked + usual)} ${booked + usual === 1 ? "job" : "jobs"}`;
  const work = isOff ? "nothing booked" : booked > 0 ? `${jobs} booked` : usual > 0 ? `${jobs} as usual` : "";
  const label = [fullDay(on), work, ...cells.map((cell) => cellWords(cell, units))]
    .filter((each) => each !== "")
    .join("; ");
  return (
    <Pressable
      onPress={onPress}
      aria-label={label}
      aria-expanded={isOpen}
      testID={`day-${on}`}
      {...({ "data-day": on } as object)}
      flexDirection="row"
      alignItems="center"
      justifyContent="flex-start"
      alignSelf="stretch"
      minHeight={58}
      paddingVertical={4}
      backgroundColor={isTarget ? "$ice" : "transparent"}
    >
      <View width={DAY_WIDTH} alignItems="flex-start" gap={3}>
        <View flexDirection="row" alignItems="baseline" gap="$2">
          <Strong fontSize="$3">{shortDay(on)}</Strong>
          <Body color="$soft">{dayNumber(on, isFirst)}</Body>
        </View>
        {booked + usual > 0 ? <JobBoxes booked={booked} usual={usual} /> : isOff ? <Small>nothing booked</Small> : null}
      </View>
      {cells.map((cell) => (
        <CellBox key={cell.rig.id} cell={cell} />
      ))}
    </Pressable>
  );
}
