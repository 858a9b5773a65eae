import type { RefillStep } from "@winter-bead/core";
import { isCartridgeWork, type GuideStep, type Ways } from "@winter-bead/core/src/refill";
import { kept, takenBack, type Step } from "../../data/acts";
import { act, newId, type Done } from "../../data/store";
import type { Guide } from "./useGuide";
import { guidedWords } from "./words";

type Written = Pick<RefillStep, "outcome"> & Partial<Pick<RefillStep, "until" | "note" | "found" | "ways">>;

/** A step of the work as a new record. */
export function stepRecord({ id, guided, facts, vessel }: Guide, step: string, written: Written): Step {
  return kept(
    "refill-steps",
    {
      ...{ workId: id, guided, rigId: facts.rig.id, ...(isCartridgeWork(guided) ? {} : { vesselId: vessel.id }) },
      ...{ step, at: new Date().toISOString(), ...written },
    },
    newId(),
  );
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
    stepRecord(guide, "end", { outcome: "given-up" }),
  ]);
