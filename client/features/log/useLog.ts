import { type Id } from "@winter-bead/core";
import { useCallback, useMemo, useRef, useState } from "react";
import { inUse } from "../../data/in-use";
import { useSettings } from "../../data/settings";
import { newId } from "../../data/store";
import { useUnitDraft } from "../../forms/useUnitDraft";
import { momentInWords, shown, toShown, unitOf, type Units } from "../../ui/format";
import type { RigFacts } from "../rack/assess";
import type { RigView } from "../rack/useRigs";
import { draftVisit, EMPTY_DRAFT, logInOtherUnits, type DraftField, type LogDraft } from "./draft-visit";
import { lastReading, lastWater, usualMeter } from "./last-values";
import { boxesOf, pointsOf } from "./points";

/** Everything the log needs, worked out from the draft as it stands. */
export function useLog(view: RigView) {
  const { facts } = view;
  const { units } = useSettings();
  const initial = useMemo<LogDraft>(() => {
    const current = facts.charges[facts.charges.length - 1];
    const { water } = lastWater(facts.visits, current?.startTotal);
    const lastVisit = facts.visits[facts.visits.length - 1];
    return {
      ...EMPTY_DRAFT,
      meterId: usualMeter(facts.visits, facts.meters) ?? "",
      tapId: lastVisit?.tapId ?? facts.rig.tapId,
      waterBy: water?.by ?? "total",
    };
    // The draft starts once; what comes later must not overwrite what was typed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [facts.rig.id]);
  const [kept, patch, clear] = useUnitDraft<LogDraft>(`log:${facts.rig.id}`, initial, logInOtherUnits);
  const meters = useMemo(() => inUse(facts.meters), [facts.meters]);
  // A draft may name a meter that was retired since.
  const draft = useMemo(
    () =>
      meters.some(({ id }) => id === kept.meterId)
        ? kept
        : { ...kept, meterId: usualMeter(facts.visits, meters) ?? "" },
    [kept, meters, facts.visits],
  );
  const [focus, setFocus] = useState<DraftField>("output");
  const current = facts.charges[facts.charges.length - 1];
  const last = useMemo(() => lastWater(facts.visits, current?.startTotal), [facts.visits, current]);
  const points = useMemo(() => pointsOf(facts), [facts]);
  const [asked, setAsked] = useState<readonly DraftField[]>([]);
  // What was typed of a point stays in sight.
  const boxes = useMemo(() => boxesOf(points, asked), [points, asked]);
  const ask = useCallback((field: DraftField) => {
    setAsked((before) => [...before.filter((each) => each !== field), field]);
    setFocus(field);
  }, []);
  const ids = useRef<Id[]>([]);
  const visit = useMemo(() => {
    let next = 0;
    const parts = { rig: facts.rig, points, meters, units, lastTotal: last.total };
    return draftVisit(draft, parts, () => (ids.current[next++] ??= newId()));
  }, [draft, facts.rig, points, meters, units, last.total]);
  const asksFilling =
    draft.waterBy === "total" && draft.water !== "" && !draft.newMeter && last.total === undefined && Boolean(current);
  const forgetIds = useCallback(() => {
    ids.current = [];
  }, []);
  return useMemo(
    () => ({
      draft,
      patch,
      clear,
      focus,
      setFocus,
      points,
      boxes,
      ask,
      visit,
      last,
      meters,
      forgetIds,
      units,
      asksFilling,
    }),
    [draft, patch, clear, focus, points, boxes, ask, visit, last, meters, forgetIds, units, asksFilling],
  );
}

export type Log = ReturnType<typeof useLog>;

/** What the last value of a field was, and what a tap on it types. */
export interface Offer {
  readonly text: string;
  readonly words: string;
}

/** The last value of a field, as it is offered. */
export function offerFor(field: DraftField, facts: RigFacts, log: Log): Offer | undefined {
  const { draft, last, units } = log;
  if (field === "temperature" || field === "atFilling") return undefined;
  if (field === "water") {
    const { water, total } = last;
    if (draft.waterBy === "total")
      return total === undefined
        ? undefined
        : {
            text: "",
            words: `Last ${Math.round(toShown("volume", total, units)).toLocaleString("en-US")} ${unitOf("volume", units)}`,
          };
    if (!water || water.by === "total" || water.by !== draft.waterBy) return undefined;
    const amount = water.by === "timed" ? water.minutes : water.jobs;
    return { text: String(amount), words: `Last ${amount}` };
  }
  const at = log.points.find((each) => each.field === field);
  const reading =
    at &&
    lastReading(facts.visits, at.point, { stageId: at.stageId, tapId: field === "feed" ? draft.tapId : undefined });
  return (
    reading && { text: String(reading.value), words: `Last ${reading.value}, ${momentInWords(reading.at, facts.now)}` }
  );
}

/** What a number in the water field counts. */
export function waterUnitOf({ waterBy, flow, perJob }: LogDraft, { rig }: RigFacts, units: Units): string {
  const one = (quantity: "flow" | "volume", value: number) =>
    `${shown(quantity, value, units).text} ${unitOf(quantity, units)}`;
  if (waterBy === "total") return unitOf("volume", units);
  if (waterBy === "timed") return `min at ${flow === "" ? one("flow", rig.flow) : `${flow} ${unitOf("flow", units)}`}`;
  return `${rig.jobName}s, ${perJob === "" ? one("volume", rig.litresPerJob) : `${perJob} ${unitOf("volume", units)}`} each`;
}
