import { View } from "@tamagui/core";
import type { Id, Rig, Vessel } from "@winter-bead/core";
import { Fragment, type ReactNode } from "react";
import { useSettings } from "../../data/settings";
import { Pressable } from "../../ui/boxes";
import { StageSign } from "../../ui/StageSign";
import { StateRing } from "../../ui/StateRing";
import { Small } from "../../ui/words";
import type { BedAssessment } from "./assess";
import { drawnStages, type DrawnStage } from "./train-views";
import type { RigView } from "./useRigs";
import { VesselColumn } from "./VesselColumn";
import { headlineShown } from "./words";

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
  return (
    <VesselColumn
      vessel={vessel}
      standing={where}
      height={height}
      testID={testID}
      label={
        where
          ? `${rig.name}: ${vessel.name}, the front stands at ${Math.round(100 * where.front.typical)} % of the depth`
          : `${rig.name}: ${vessel.name}, no charge in use`
      }
    />
  );
}

/** Litres of a bed in few signs, and its state. */
function BedWords({
  stage,
  rig,
  isKnown,
}: {
  readonly stage: DrawnStage;
  readonly rig: Rig;
  /** Nothing is called empty before it was worked out. */
  readonly isKnown: boolean;
}) {
  const { units } = useSettings();
  const { bed, vessel } = stage;
  const headline = bed && vessel && headlineShown({ ...bed.standing, verdict: bed.verdict }, { rig, vessel }, units);
  return (
    <View alignItems="center" maxWidth={76}>
      <View flexDirection="row" alignItems="center" gap={3}>
        {bed ? <StateRing state={bed.verdict.state} size={14} /> : null}
        <Small color="$ink" fontWeight="700">
          {headline
            ? headline.isWord
              ? headline.big
              : `${headline.big} ${headline.unit}`
            : bed || !isKnown
              ? "–"
              : "empty"}
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

/** The end of the flow. */
const ToTool = () => (
  <>
    <Flow />
    <Small fontSize={11} marginLeft={4}>
      tool
    </Small>
  </>
);

/** A group of stages that stays in one row. */
function Row({ stages, children, of }: RowProps & { readonly of: (stage: DrawnStage) => ReactNode }) {
  return stages.length === 0 ? null : (
    <View flexDirection="row" alignItems="center" flexGrow={1}>
      {stages.map((stage) => (
        <Fragment key={stage.id}>
          <Flow />
          {of(stage)}
        </Fragment>
      ))}
      {children}
    </View>
  );
}

interface RowProps {
  readonly stages: readonly DrawnStage[];
  readonly children?: ReactNode;
}

/**
 * The train along the flow: signs for what stands before, bead columns in a row, the flow between them; where one row is
 * too narrow the vessels stand in a second one. A vessel can be chosen, to be looked at.
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
  const first = stages.findIndex(({ kind }) => kind === "resin");
  const before = first < 0 ? stages.length : first;
  const drawn = (stage: DrawnStage) => {
    if (stage.kind !== "resin") return <BeforeStage kind={stage.kind} />;
    const bed = <Bed stage={stage} view={view} height={height} />;
    if (!stage.vessel || !onChoose) return bed;
    const { id, name } = stage.vessel;
    return (
      <Pressable
        onPress={() => onChoose(id)}
        aria-pressed={chosen === id}
        testID={`bed-${name}`}
        borderBottomWidth={3}
        borderColor={chosen === id ? "$ink" : "transparent"}
      >
        {bed}
      </Pressable>
    );
  };
  return (
    <View
      role="group"
      aria-label={`The train of ${view.facts.rig.name}, from the tap to the tool`}
      testID="train"
      flexDirection="row"
      alignItems="center"
      flexWrap="wrap"
      rowGap="$2"
    >
      <Small fontSize={11}>tap</Small>
      <Row stages={stages.slice(0, before)} of={drawn} />
      <Row stages={stages.slice(before)} of={drawn}>
        <ToTool />
      </Row>
    </View>
  );
}

function Bed({ stage, view, height }: { readonly stage: DrawnStage; readonly view: RigView; readonly height: number }) {
  const { rig } = view.facts;
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
      <BedWords stage={stage} rig={rig} isKnown={view.assessment !== undefined} />
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
