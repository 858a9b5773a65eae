import { clockNowIso } from "../../data/clock";
import type { RefillStep } from "@winter-bead/core";
import { isCartridgeWork, type GuideStep, type Ways } from "@winter-bead/core/src/refill";
import { changed, kept, keptOnce, takenBack, type Step } from "../../data/acts";
import { newId, workIdOf } from "../../data/new-id";
import { act, type Done } from "../../data/store";
import type { Guide } from "./useGuide";
import { guidedWords } from "./words";

type Written = Pick<RefillStep, "outcome"> & Partial<Pick<RefillStep, "until" | "note" | "found" | "ways">>;

/** A step of the work as a new record. */
export const stepRecord = (guide: Guide, step: string, written: Written): Step =>
  kept("refill-steps", stepBody(guide, step, written), newId());

function stepBody({ id, guided, facts, vessel }: Guide, step: string, written: Written) {
  return {
    ...{ workId: id, guided, rigId: facts.rig.id, ...(isCartridgeWork(guided) ? {} : { vesselId: vessel.id }) },
    ...{ step, at: clockNowIso(), ...written },
  };
}

const END = "end";

/**
 * The word that all of it is done. Every phone gives it the same id: where two finish at once, the second one's act is refused
 * whole, and the books hold one refill. Undone it stands as reopened, so that the work can be finished again.
 */
export function finished(guide: Guide): Step {
  const body = (outcome: "finished" | "reopened") => stepBody(guide, END, { outcome });
  const before = guide.records.find((each) => each.step === END && each.outcome === "reopened");
  if (before) return changed("refill-steps", before, body("finished"));
  return keptOnce("refill-steps", body("finished"), workIdOf(`${guide.id} ${END}`), body("reopened"));
}

/** Notes a step: each is kept by itself, so that the work can be left at any of them and gone on with elsewhere. */
export const note = (guide: Guide, step: GuideStep, written: Written): Promise<Done> =>
  act(`${guidedWords(guide.guided, guide.facts.rig.name)}: ${step.short}`, [stepRecord(guide, step.id, written)]);

/** A step was not done after all: whatever any phone noted of it is taken back. */
export const notAfterAll = (guide: Guide, step: GuideStep): Promise<Done> =>
  act(
    `${guidedWords(guide.guided, guide.facts.rig.name)}: ${step.short}, not after all`,
    guide.records.filter((each) => each.step === step.id).map((each) => takenBack("refill-steps", each)),
  );

/** The crew does it another way from here on. */
export const chooseWays = (guide: Guide, step: GuideStep, ways: Ways): Promise<Done> =>
  act(`${guidedWords(guide.guided, guide.facts.rig.name)}: another way`, [
    stepRecord(guide, `${step.id}-way`, { outcome: "done", ways }),
  ]);

/** The work is not gone on with. */
export const giveUp = (guide: Guide): Promise<Done> =>
  act(`${guidedWords(guide.guided, guide.facts.rig.name)}: given up`, [
    stepRecord(guide, "given-up", { outcome: "given-up" }),
  ]);
