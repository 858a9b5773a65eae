import type { Id, Meter, ReadingPoint, ReadingRecord, Rig, Visit } from "@winter-bead/core";
import { inUse } from "../../data/in-use";
import { numberText, textIn, type Texts } from "../../forms/texts";
import { toInternal, typedNumber, type Units } from "../../ui/format";

/** The points of a rig's train at which something is read, each with its words. */
export const pointsOf = ({ stages }: Rig): readonly { readonly point: ReadingPoint; readonly label: string }[] => [
  { point: "feed", label: "Feed" },
  ...(stages.some(({ kind }) => kind === "membrane") ? [{ point: "after-membrane", label: "After RO" } as const] : []),
  { point: "output", label: "Output" },
];

/** A reading that is there goes by its id, one that is still to come by its point. */
export interface ReadingBox {
  readonly key: string;
  readonly point: ReadingPoint;
  readonly label: string;
  readonly reading?: ReadingRecord;
}

/** A box for every reading that is there, and for each point that has none. */
export function readingBoxes(rig: Rig, readings: readonly ReadingRecord[]): readonly ReadingBox[] {
  return pointsOf(rig).flatMap(({ point, label }): ReadingBox[] => {
    const there = readings.filter((reading) => reading.point === point);
    if (there.length === 0) return [{ key: point, point, label }];
    return there.map((reading, i) => ({
      key: reading.id,
      point,
      label: there.length > 1 ? `${label}, ${i + 1}` : label,
      reading,
    }));
  });
}

const temperatureOf = (readings: readonly ReadingRecord[]) =>
  readings.find(({ temperature }) => temperature !== undefined)?.temperature;

/** What the form of a visit holds beside its own fields. */
export const besideVisit = (rig: Rig, readings: readonly ReadingRecord[], meterId: Id, units: Units): Texts => {
  const temperature = temperatureOf(readings);
  return {
    ...Object.fromEntries(
      readingBoxes(rig, readings).map(({ key, reading }) => [key, reading ? numberText(reading.value) : ""]),
    ),
    meterId: readings.find((reading) => reading.meterId)?.meterId ?? meterId,
    temperature: temperature === undefined ? "" : textIn("temperature", numberText(temperature), "metric", units),
    right: readings.some(({ confirmed }) => confirmed) ? "yes" : "no",
  };
};

interface VisitParts {
  readonly boxes: readonly ReadingBox[];
  readonly before: Texts;
  readonly beside: Texts;
  readonly meters: readonly Meter[];
  readonly newId: (point: ReadingPoint) => Id;
  readonly units: Units;
}

/** The readings as they are typed: an emptied one goes, one that was not touched stays as it was seen. */
export function readingsAsTyped({ boxes, before, beside, meters, newId, units }: VisitParts): readonly object[] {
  const meter = meters.find(({ id }) => id === beside["meterId"]);
  const changedMeter = beside["meterId"] !== before["meterId"];
  const changedTemperature = beside["temperature"] !== before["temperature"];
  const typedDegrees = typedNumber(String(beside["temperature"] ?? ""));
  const temperature = typedDegrees === undefined ? undefined : toInternal("temperature", typedDegrees, units);
  const right = beside["right"] === "yes";
  return boxes.flatMap(({ key, point, reading }) => {
    const text = String(beside[key] ?? "");
    if (text.trim() === "") return [];
    const value = reading && text === before[key] ? reading.value : (typedNumber(text) ?? NaN);
    const degrees = changedTemperature || !reading ? temperature : reading.temperature;
    const scale = changedMeter || !reading ? (meter ? { meterId: meter.id } : { scale: "nacl" }) : scaleOf(reading);
    return [
      {
        id: reading?.id ?? newId(point),
        point,
        ...scale,
        value,
        ...(degrees === undefined ? {} : { temperature: degrees }),
        ...(right ? { confirmed: true } : {}),
      },
    ];
  });
}

/** A new reading, where the crew has meters, needs one: a figure on a scale nobody chose means nothing. */
export function meterComplaints(boxes: readonly ReadingBox[], beside: Texts, meters: readonly Meter[]) {
  const typed = boxes.some(({ key, reading }) => !reading && String(beside[key] ?? "").trim() !== "");
  if (!typed || inUse(meters).length === 0 || meters.some(({ id }) => id === beside["meterId"])) return [];
  return [{ path: "beside.meterId", message: "Say which meter: without its scale a reading is ambiguous by 40 %." }];
}

const scaleOf = ({ meterId, scale }: ReadingRecord) => ({
  ...(meterId === undefined ? {} : { meterId }),
  ...(scale === undefined ? {} : { scale }),
});

/** The water as it is typed, said to be right where it is. */
export function waterAsTyped(water: Visit["water"], right: boolean): object {
  if (water?.by !== "total") return water ? { water } : {};
  const { confirmed: _, ...total } = water;
  return { water: right ? { ...total, confirmed: true } : total };
}
