import { useLocalSearchParams } from "expo-router";
import { NotHere } from "../../ui/NotHere";
import { LogScreen } from "./LogScreen";
import { useRigs } from "./useRigs";

/** The log of the rig in the address. */
export function LogPlace() {
  const { rig } = useLocalSearchParams<{ rig: string }>();
  const { rigs } = useRigs();
  const view = rigs.find((each) => each.facts.rig.id === rig);
  if (!view) return <NotHere what="rig" href="/" way="To the rack" />;
  return <LogScreen key={view.facts.rig.id} view={view} />;
}
