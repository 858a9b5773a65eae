import { View } from "@tamagui/core";
import { moved, usualPlace } from "@winter-bead/core";
import { useState, type KeyboardEvent } from "react";
import { newId } from "../../data/new-id";
import { Pressable, Row, TextButton } from "../../ui/boxes";
import { FieldRow, NumberField } from "../../ui/fields";
import { unitOf, type Units } from "../../ui/format";
import { SelectField } from "../../ui/pickers";
import { StageSign } from "../../ui/StageSign";
import { useDrag } from "../../ui/useDrag";
import { Body, Small, Strong } from "../../ui/words";
import { FED_BY, FIGURES, newStage, type StageFigure, type StageKind, type TypedStage } from "./stages-as-typed";

const KINDS: Readonly<Record<StageKind, string>> = {
  sediment: "Sediment",
  carbon: "Carbon",
  membrane: "Membrane",
  degasser: "Degasser",
  resin: "Resin vessel",
};

const MOST_STAGES = 12;

interface Asked {
  readonly label: string;
  readonly unit: (units: Units) => string;
  readonly hint?: string;
}
const ASKED: Readonly<Record<StageFigure, Asked>> = {
  microns: { label: "Holds back from", unit: () => "microns", hint: "By its data sheet" },
  chlorineGrams: { label: "Takes chlorine", unit: () => "g", hint: "By its data sheet" },
  rejection: { label: "Holds back", unit: () => "%", hint: "95 to 98 when in order" },
  ratedFlow: { label: "Makes by its plate", unit: (units) => unitOf("flow", units) },
  hours: { label: "Aerated for", unit: () => "h" },
};

/** A stage in few words: what it is, and who stands there. */
function detailOf(stage: TypedStage, vesselName: (id: string) => string): string {
  if (stage.kind === "resin") return vesselName(stage.vessel ?? "none");
  const figures = FIGURES[stage.kind].flatMap((figure) => {
    const text = stage[figure] ?? "";
    if (text === "") return [];
    if (figure === "microns") return [`${text} microns`];
    if (figure === "chlorineGrams") return [`${text} g of chlorine`];
    if (figure === "rejection") return [`holds back ${text} %`];
    return figure === "hours" ? [`${text} h of air`] : [];
  });
  return figures.join(", ") || "nothing noted of it";
}

export interface VesselOption {
  readonly value: string;
  readonly label: string;
}

interface StageListProps {
  readonly stages: readonly TypedStage[];
  readonly onChange: (stages: readonly TypedStage[]) => void;
  /** Who may stand in a place: each vessel, a new one, none. */
  readonly vessels: readonly VesselOption[];
  readonly units: Units;
  readonly error: string | undefined;
}

/** What a stage is: its figures, or who stands there; and out with it. */
function StageFields({
  stage,
  vessels,
  units,
  isSecond,
  onChange,
  onRemove,
}: {
  readonly stage: TypedStage;
  /** A membrane behind another. */
  readonly isSecond: boolean;
  readonly vessels: readonly VesselOption[];
  readonly units: Units;
  readonly onChange: (stage: TypedStage) => void;
  readonly onRemove: (() => void) | undefined;
}) {
  return (
    <View gap="$3" paddingBottom="$3">
      {stage.kind === "resin" ? (
        <SelectField
          label="Who stands here"
          value={stage.vessel ?? "none"}
          options={vessels}
          onChange={(vessel) => onChange({ ...stage, vessel })}
          testID={`stage-vessel-${stage.id}`}
        />
      ) : (
        <FieldRow>
          {FIGURES[stage.kind].map((figure) => (
            <NumberField
              key={figure}
              label={ASKED[figure].label}
              unit={ASKED[figure].unit(units)}
              hint={ASKED[figure].hint}
              value={stage[figure] ?? ""}
              onChange={(text) => onChange({ ...stage, [figure]: text })}
              testID={`field-${figure}`}
            />
          ))}
        </FieldRow>
      )}
      {isSecond ? (
        <SelectField
          label="Fed by"
          value={stage.fedBy ?? "product"}
          options={FED_BY}
          onChange={(fedBy) => onChange({ ...stage, fedBy: fedBy as NonNullable<TypedStage["fedBy"]> })}
          testID="field-fedBy"
        />
      ) : null}
      {onRemove ? (
        <TextButton onPress={onRemove} testID={`remove-${stage.kind}`}>
          {`Take the ${KINDS[stage.kind].toLowerCase()} out of the train`}
        </TextButton>
      ) : null}
    </View>
  );
}

/** One stage: dragged by its handle, moved by keys, opened for what it is. */
function StageRow({
  stage,
  place,
  count,
  name,
  detail,
  isOver,
  open,
  handle,
  onOpen,
  onMove,
  children,
}: {
  readonly stage: TypedStage;
  readonly place: number;
  readonly count: number;
  readonly name: string;
  readonly detail: string;
  readonly isOver: boolean;
  readonly open: boolean;
  readonly handle: object;
  readonly onOpen: () => void;
  readonly onMove: (to: number) => void;
  readonly children: React.ReactNode;
}) {
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    if (step === 0 || !event.altKey) return;
    event.preventDefault();
    onMove(place + step);
  };
  return (
    <View
      {...({ "data-stage": stage.id } as object)}
      testID={`stage-${place}`}
      role="listitem"
      borderTopColor={isOver ? "$ink" : "$line"}
      borderTopWidth={isOver ? 3 : 1}
    >
      <Row gap="$2">
        <View
          {...handle}
          {...({ onKeyDown, "aria-keyshortcuts": "Alt+ArrowUp Alt+ArrowDown" } as object)}
          role="button"
          tabIndex={0}
          aria-label={`${name}, stage ${place + 1} of ${count}: drag it, or move it with Alt and the arrow keys`}
          testID={`grip-${place}`}
          width={44}
          height={48}
          alignItems="center"
          justifyContent="center"
        >
          <StageSign kind={stage.kind} size={30} />
        </View>
        <Pressable
          onPress={onOpen}
          aria-expanded={open}
          flex={1}
          minWidth={0}
          alignItems="flex-start"
          paddingVertical={4}
          testID={`open-stage-${place}`}
        >
          <Strong textAlign="left">{name}</Strong>
          <Small textAlign="left">{detail}</Small>
        </Pressable>
        {([-1, 1] as const).map((step) => (
          <Pressable
            key={step}
            onPress={() => onMove(place + step)}
            disabled={place + step < 0 || place + step >= count}
            opacity={place + step < 0 || place + step >= count ? 0.25 : 1}
            aria-label={`Move ${name} ${step < 0 ? "nearer to the tap" : "nearer to the tool"}`}
            testID={`${step < 0 ? "up" : "down"}-${place}`}
          >
            <Body>{step < 0 ? "↑" : "↓"}</Body>
          </Pressable>
        ))}
      </Row>
      {open ? children : null}
    </View>
  );
}

/** The train from the tap to the tool: stages are added where they usually stand, dragged, moved by keys, opened and taken out. */
export function StageList({ stages, onChange, vessels, units, error }: StageListProps) {
  const [open, setOpen] = useState<string>();
  const move = (from: number, to: number) => onChange(moved(stages, from, to));
  const placeOf = (id: string) => stages.findIndex((stage) => stage.id === id);
  const { over, handle } = useDrag((id, on) => move(placeOf(id), placeOf(on)), "stage");
  const resin = stages.filter(({ kind }) => kind === "resin").length;
  const vesselName = (id: string) => vessels.find(({ value }) => value === id)?.label ?? "not known here";
  const add = (kind: StageKind) => {
    const stage = newStage(kind, newId(), units);
    const at = usualPlace(stages, kind);
    onChange([...stages.slice(0, at), stage, ...stages.slice(at)]);
    setOpen(stage.id);
  };
  return (
    <View gap="$2" testID="stage-list">
      <Small>From the tap, in the order the water meets them. Drag a sign, or use the arrows.</Small>
      <View role="list" borderBottomColor="$line" borderBottomWidth={1}>
        {stages.map((stage, i) => (
          <StageRow
            key={stage.id}
            stage={stage}
            place={i}
            count={stages.length}
            name={KINDS[stage.kind]}
            detail={detailOf(stage, vesselName)}
            isOver={over === stage.id}
            open={open === stage.id}
            handle={handle(stage.id)}
            onOpen={() => setOpen(open === stage.id ? undefined : stage.id)}
            onMove={(to) => move(i, to)}
          >
            <StageFields
              stage={stage}
              vessels={vessels}
              units={units}
              isSecond={stage.kind === "membrane" && stages.slice(0, i).some(({ kind }) => kind === "membrane")}
              onChange={(next) => onChange(stages.map((each) => (each.id === stage.id ? next : each)))}
              onRemove={
                stage.kind === "resin" && resin === 1
                  ? undefined
                  : () => onChange(stages.filter(({ id }) => id !== stage.id))
              }
            />
          </StageRow>
        ))}
      </View>
      {error ? (
        <Small color="$rowan" role="alert" {...({ "aria-invalid": true } as object)}>
          {error}
        </Small>
      ) : null}
      {stages.length < MOST_STAGES ? (
        <View flexDirection="row" flexWrap="wrap" gap="$2" role="group" aria-label="Add a stage">
          {(Object.keys(KINDS) as StageKind[]).map((kind) => (
            <TextButton key={kind} onPress={() => add(kind)} testID={`add-${kind}`}>
              {`+ ${KINDS[kind]}`}
            </TextButton>
          ))}
        </View>
      ) : null}
    </View>
  );
}
