import { placesOf, type Id } from "@winter-bead/core";
import { useDraft } from "../../data/draft";
import { useTrains } from "../../data/trains";
import { Choice } from "../../ui/boxes";
import { Small } from "../../ui/words";
import type { RigFacts } from "../rack/assess";
import { arrangementAfter, nextInLine, type After } from "./place-after";

/** Of a vessel that others stand behind: whether it goes to the end, as lead and lag are run. */
export function usePlaceAfter(facts: RigFacts, vesselId: Id) {
  const trains = useTrains();
  // Of the charge that is in it now: the next refill is asked anew.
  const charge = facts.charges.find((each) => each.vesselId === vesselId && each.ended === undefined);
  const [{ after }, patch] = useDraft<{ readonly after: After }>(`place-after:${charge?.id ?? vesselId}`, {
    after: "end",
  });
  const places = placesOf(facts.rig, trains, facts.now);
  const next = nextInLine(facts, places, vesselId);
  const chosen: After = next ? after : "same";
  return {
    /** The choice, where there is one. */
    asked: next ? (
      <>
        <Choice
          label="Where it hangs from now on"
          value={after}
          options={[
            { value: "end", label: `Last: ${next.name} leads now` },
            { value: "same", label: "In its own place again" },
          ]}
          onChange={(chosen) => patch({ after: chosen })}
          testID="place-after"
        />
        {after === "end" ? (
          <Small>Nothing is wasted and there is always a guard: the fresh one stands behind.</Small>
        ) : null}
      </>
    ) : null,
    /** @param comesIn the vessel that is hung in @param exchanged a service brought what is in it */
    steps: (comesIn: Id, at: string, exchanged = false) =>
      arrangementAfter(facts.rig.id, places, vesselId, comesIn, chosen, at, exchanged),
  };
}
