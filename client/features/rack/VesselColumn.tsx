import { flowsUp, type Standing, type Vessel } from "@winter-bead/core";
import { BeadColumn } from "../../ui/BeadColumn";
import { proportionOf } from "./proportion";

/** The bead column of one vessel as its charge stands, or an empty outline. */
export function VesselColumn({
  vessel,
  standing,
  ...drawn
}: {
  readonly vessel: Vessel;
  readonly standing: Standing | undefined;
  readonly height: number;
  readonly label: string;
  readonly testID: string;
}) {
  return (
    <BeadColumn
      {...drawn}
      throughput={standing?.throughput.typical ?? 0}
      transferUnits={standing?.bed.transferUnits ?? 30}
      front={standing?.front}
      up={flowsUp(vessel.kind)}
      proportion={proportionOf(vessel.diameter, vessel.grossVolume)}
    />
  );
}
