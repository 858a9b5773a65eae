import { View } from "@tamagui/core";
import { Heading, Small } from "../../ui/words";
import type { RigView } from "../rack/useRigs";
import { LooseVisits } from "./LooseVisits";

/** Visits whose time lies so far ahead that a clock was wrong: nothing counts them until it is put right. */
export function VisitsAhead({ view: { facts } }: { readonly view: RigView }) {
  const { ahead = [], rig } = facts;
  if (ahead.length === 0) return null;
  return (
    <View gap="$2" testID="visits-ahead">
      <Heading>Dated ahead</Heading>
      <Small color="$rowan">
        A clock was wrong when these were logged. They are kept, and count once their time is put right.
      </Small>
      <LooseVisits label={`Visits of ${rig.name} dated ahead`} visits={ahead} correct="Put its time right" />
    </View>
  );
}
