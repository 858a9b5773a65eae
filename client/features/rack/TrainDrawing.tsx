import { View } from "@tamagui/core";
import { flowsUp, headlineOf, type Id, type Rig, type Vessel } from "@winter-bead/core";
import { Fragment } from "react";
import { useSettings } from "../../data/settings";
import { BeadColumn } from "../../ui/BeadColumn";
import { Pressable } from "../../ui/boxes";
import { shown } from "../../ui/format";
import { StageSign } from "../../ui/StageSign";
import { StateRing } from "../../ui/StateRing";
import { Small } from "../../ui/words";
import type { BedAssessment } from "./assess";
import { proportionOf } from "./proportion";
import { drawnStages, type DrawnStage } from "./train-views";
import type { RigView } from "./useRigs";

const NAMES = { sediment: "Sediment", carbon: "Carbon", membrane: "RO", degasser: "Air", resin: "" } as const;

/** The flow from one stage to the next. */
const Flow = () => (
  <View
    position="relative"
    flexGrow={1}
    flexShrink={1}
    minWidth={8}
    height={9}
    justifyContent="center"
    alignItems="flex-end"
    aria-hidden
  >
    <View position="absolute" left={1} right={1} height={2} backgroundColor="$ink" />
    <View
      width={6}
      height={6}
      borderTopWidth={2}
      borderRightWidth={2}
      borderColor="$ink"
      transform={[{ rotate: "45deg" }]}
    />
  </View>
);

/** The bead column of one vessel as it stands, or an empty outline. */
export function BedColumn({
  rig,
  vessel,
  bed,
  height,
  testID,
}: {
  readonly rig: Rig;
  readonly vessel: Vessel;
  readonly bed: BedAssessment | undefined;
  readonly height: number;
  readonly testID: string;
}) {
  const where = bed?.standing;
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  return (
    <BeadColumn
      testID={testID}
      throughput={where?.throughput.typical ?? 0}
      transferUnits={where?.bed.transferUnits ?? 30}
      front={where?.front}
      up={flowsUp(vessel.kind)}
      proportion={proportionOf(vessel.diameter, vessel.grossVolume)}
      height={height}
      label={
        where
          ? `${rig.name}: ${vessel.name}, the front stands at ${percent(where.front.typical)} of the depth`
          : `${rig.name}: ${vessel.name}, no charge in use`
      }
    />
  );
}

/** Litres of a bed in few signs, and its state. */
function BedWords({ stage, rig }: { readonly stage: DrawnStage; readonly rig: Rig }) {
  const { units } = useSettings();
  const { bed, vessel } = stage;
  const headline = bed && headlineOf(bed.standing, { rig });
  const left = headline && shown("volume", headline.litres.typical, units);
  return (
    <View alignItems="center" maxWidth={86}>
      <View flexDirection="row" alignItems="center" gap={3}>
        {bed ? <StateRing state={bed.verdict.state} size={14} /> : null}
        <Small color="$ink" fontWeight="700">
          {left ? `${left.text} ${left.unit}` : bed ? "–" : "empty"}
        </Small>
      </View>
      <Small numberOfLines={1} textAlign="center">
        {vessel?.name ?? "no vessel"}
      </Small>
    </View>
  );
}

/** What stands before the beads, as signs with their names. */
const BeforeStage = ({ kind }: { readonly kind: DrawnStage["kind"] }) => (
  <View alignItems="center" minWidth={36}>
    <StageSign kind={kind} size={34} />
    <Small fontSize={11} lineHeight={14}>
      {NAMES[kind]}
    </Small>
  </View>
);

/**
 * The train along the flow: signs for what stands before, bead columns in a row, the flow between them; a vessel can be
 * chosen, to be looked at.
 */
export function TrainDrawing({
  view,
  height = 104,
  chosen,
  onChoose,
}: {
  readonly view: RigView;
  readonly height?: number;
  readonly chosen?: Id | undefined;
  readonly onChoose?: (vesselId: Id) => void;
}) {
  const stages = drawnStages(view);
  return (
    <View
      role="group"
      aria-label={`The train of ${view.facts.rig.name}, from the tap to the tool`}
      testID="train"
      flexDirection="row"
      alignItems="center"
    >
      <Small fontSize={11}>tap</Small>
      {stages.map((stage) => (
        <Fragment key={stage.id}>
          <Flow />
          {stage.kind !== "resin" ? (
            <BeforeStage kind={stage.kind} />
          ) : stage.vessel && onChoose ? (
            <Pressable
              onPress={() => onChoose(stage.vessel!.id)}
              aria-pressed={chosen === stage.vessel.id}
              testID={`bed-${stage.vessel.name}`}
              borderBottomWidth={3}
              borderColor={chosen === stage.vessel.id ? "$ink" : "transparent"}
            >
              <Bed stage={stage} rig={view.facts.rig} height={height} />
            </Pressable>
          ) : (
            <Bed stage={stage} rig={view.facts.rig} height={height} />
          )}
        </Fragment>
      ))}
      <Flow />
      <Small fontSize={11}>tool</Small>
    </View>
  );
}

function Bed({ stage, rig, height }: { readonly stage: DrawnStage; readonly rig: Rig; readonly height: number }) {
  return (
    <View alignItems="center" gap={2}>
      {stage.vessel ? (
        <BedColumn
          rig={rig}
          vessel={stage.vessel}
          bed={stage.bed}
          height={height}
          testID={`bed-column-${stage.vessel.name}`}
        />
      ) : (
        <View width={34} height={height} borderWidth={2} borderColor="$line" borderStyle="dashed" borderRadius="$2" />
      )}
      <BedWords stage={stage} rig={rig} />
    </View>
  );
}

/** Whether a rig's train is worth drawing: more than one vessel, or a place that is empty. */
export const isTrain = (view: RigView): boolean => drawnStages(view).filter(({ kind }) => kind === "resin").length > 1;

/** Bead columns of a train side by side, in the room of one. */
export function ColumnsInARow({ view, height }: { readonly view: RigView; readonly height: number }) {
  const beds = drawnStages(view).filter(({ kind }) => kind === "resin");
  const each = Math.round((beds.length === 2 ? 0.66 : 0.5) * height);
  return (
    <View flexDirection="row" alignItems="flex-end" height={height}>
      {beds.map(({ id, vessel, bed }, i) =>
        vessel ? (
          <BedColumn
            key={id}
            rig={view.facts.rig}
            vessel={vessel}
            bed={bed}
            height={each}
            testID={`column-${view.facts.rig.name}${i === beds.length - 1 ? "" : `-${i + 1}`}`}
          />
        ) : null,
      )}
    </View>
  );
}
