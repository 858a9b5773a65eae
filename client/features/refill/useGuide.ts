import { placesOf, type BagInStock, type Guided, type Id, type Vessel } from "@winter-bead/core";
import {
  guideFor,
  HEAVY_FROM,
  isCartridgeWork,
  lastWays,
  openStep,
  refillAmounts,
  usualWays,
  workKey,
  worksOf,
  type GuidedWork,
  type GuideSetting,
  type GuideStep,
  type Ways,
} from "@winter-bead/core/src/refill";
import { fitting, stockOf } from "@winter-bead/core/src/stock/stock";
import { useMemo, useState } from "react";
import type { Kept } from "../../data/api";
import { workIdOf } from "../../data/new-id";
import { useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { localDate } from "../../ui/format";
import type { RigFacts } from "../rack/assess";
import { nextInLine } from "../setup/place-after";

/** One piece of guided work on one vessel or part, as far as every phone together has come. */
export interface Guide {
  readonly id: Id;
  readonly guided: Guided;
  readonly facts: RigFacts;
  readonly vessel: Vessel;
  readonly setting: GuideSetting;
  readonly steps: readonly GuideStep[];
  /** Absent until the first step is done. */
  readonly work: GuidedWork | undefined;
  /** The first step that is open; as many as there are steps where all are done. */
  readonly open: number;
  /** The charge in use. */
  readonly charge: Kept<"charges"> | undefined;
  readonly stock: readonly BagInStock[];
  readonly records: readonly Kept<"refill-steps">[];
}

/** Every piece of guided work there is, the newest first. */
export function useWorks(): {
  readonly works: readonly GuidedWork[];
  readonly records: readonly Kept<"refill-steps">[];
} {
  const { records } = useRecords("refill-steps");
  const works = useMemo(() => worksOf(records), [records]);
  return { works, records };
}

/** @param vessel the one of the rig that it is done to */
export function useGuide(facts: RigFacts, vessel: Vessel, guided: Guided): Guide {
  const { works, records } = useWorks();
  const { records: vessels } = useRecords("vessels");
  const { records: charges } = useRecords("charges");
  const { records: bags } = useRecords("bags");
  const charge = charges.find((each) => each.vesselId === vessel.id && each.ended === undefined);
  const target = isCartridgeWork(guided) ? { rigId: facts.rig.id } : { rigId: facts.rig.id, vesselId: vessel.id };
  // Once ended, the same words would name the next round: this page stays with the one that it opened.
  const [id] = useState(() => workIdOf(workKey(guided, target, works)));
  const work = works.find((each) => each.id === id);
  const isLead = nextInLine(facts, placesOf(facts.rig, useTrains(), facts.now), vessel.id) !== undefined;
  const ways: Ways = useMemo(() => {
    const isAlike = (vesselId: Id) => vessels.find((each) => each.id === vesselId)?.kind === vessel.kind;
    const last = work?.ways ?? lastWays(works, isAlike) ?? usualWays(vessel.kind, vessel.fillFraction);
    const isRow = facts.rig.stages.filter(({ kind }) => kind === "resin").length > 1;
    const mount =
      work?.ways?.mount ?? (isLead ? "lead-lag" : isRow && last.mount === "lead-lag" ? "stand" : last.mount);
    return { ...last, mount, fillTo: work?.ways?.fillTo ?? vessel.fillFraction };
  }, [work, works, vessels, vessel, isLead, facts.rig.stages]);
  const setting: GuideSetting = useMemo(
    () => ({
      guided,
      kind: vessel.kind,
      ways,
      use: facts.rig.use,
      isEmpty: charge === undefined,
      behindMembrane: facts.rig.stages.some(({ kind }) => kind === "membrane"),
      isHeavy: refillAmounts({ vessel, ways })["wet-weight"]!.value >= HEAVY_FROM,
    }),
    [guided, vessel, ways, facts.rig, charge],
  );
  const steps = useMemo(() => guideFor(setting), [setting]);
  const stock = useMemo(
    () => fitting(stockOf({ bags, charges, today: localDate(facts.now), dateOf: localDate }), vessel),
    [bags, charges, facts.now, vessel],
  );
  return useMemo(
    () => ({
      ...{ id, guided, facts, vessel, setting, steps, work, charge, stock },
      open: openStep(steps, work),
      records: records.filter((each) => each.workId === id),
    }),
    [id, guided, facts, vessel, setting, steps, work, charge, stock, records],
  );
}
