import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { NotHere } from "../../ui/NotHere";
import { useRigs } from "../rack/useRigs";
import { LogScreen } from "./LogScreen";

/** The log of the rig in the address, with the others one tap away. */
export function LogPlace() {
  const { rig } = useLocalSearchParams<{ rig: string }>();
  const { rigs } = useRigs();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  const others = useMemo(
    () => rigs.filter(({ facts }) => facts.rig.id !== rig && facts.rig.retiredOn === undefined),
    [rigs, rig],
  );
  if (!view) return <NotHere what="rig" href="/" way="To the rack" />;
  return <LogScreen key={view.facts.rig.id} view={view} others={others} />;
}
