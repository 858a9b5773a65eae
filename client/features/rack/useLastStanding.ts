import type { Standing } from "@winter-bead/core";
import { useEffect, useState } from "react";
import type { RigFacts } from "./assess";
import { assessInWorker } from "./assess-service";
import { lastAssessment } from "./kept-assessments";

/** The rig's last standing; asked for where the rack was not looked at yet. */
export function useLastStanding(facts: RigFacts | undefined): Standing | undefined {
  const known = facts && lastAssessment(facts.rig.id)?.assessment.standing;
  const [asked, setAsked] = useState<Standing>();
  useEffect(() => {
    if (known || !facts) return;
    let wanted = true;
    assessInWorker(facts).then(
      ({ standing }) => wanted && setAsked(standing),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [facts, known]);
  return known ?? asked;
}
