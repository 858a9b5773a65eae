import { saveDraft, savedDraft } from "../../data/draft";
import type { RigView } from "../rack/useRigs";
import type { LogDraft } from "./draft-visit";
import type { Log } from "./useLog";

const READINGS = ["output", "feed", "membrane"] as const;

/**
 * Readings typed for the wrong rig go along to the right one, with the meter they were read by; where something waits there
 * already, both stay. Water stays where it was counted.
 */
export function carryOver({ draft, patch, units }: Log, { facts }: RigView): void {
  const { rig } = facts;
  const name = `log:${rig.id}`;
  const waiting = savedDraft(name) as Partial<LogDraft>;
  const hasMembrane = rig.stages.some(({ kind }) => kind === "membrane");
  // What was read behind a stage is of that train alone.
  if (Object.values(draft.behind ?? {}).some((text) => text !== "")) return;
  if (READINGS.every((field) => draft[field] === "") || READINGS.some((field) => waiting[field])) return;
  if (draft.membrane !== "" && !hasMembrane) return;
  const { output, feed, membrane, meterId } = draft;
  saveDraft(name, { ...waiting, output, feed, membrane, meterId, typedIn: units });
  patch({ output: "", feed: "", membrane: "" });
}
