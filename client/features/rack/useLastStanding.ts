import type { Id, Standing } from "@winter-bead/core";
import { useEffect, useState } from "react";
import type { RigFacts } from "./assess";
import { assessInWorker } from "./assess-service";
import { lastAssessment } from "./kept-assessments";

/** The rig's last standing; asked for where the rack was not looked at yet. */
export function useLastStanding(facts: RigFacts | undefined): Standing | undefined {
  const known = facts && lastAssessment(facts.rig.id)?.assessment.standing;
  const [asked, setAsked] = useState<{ readonly rig: Id; readonly standing: Standing | undefined }>();
  useEffect(() => {
    if (known || !facts) return;
    let wanted = true;
    assessInWorker(facts).then(
      ({ standing }) => wanted && setAsked({ rig: facts.rig.id, standing }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [facts, known]);
  // What was asked of another rig before says nothing of this one.
  return known ?? (asked?.rig === facts?.rig.id ? asked?.standing : undefined);
}
