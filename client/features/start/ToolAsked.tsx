import { feeding, sizeOfLitres } from "@winter-bead/core/src/start";
import { Choice } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow, NumberField } from "../../ui/fields";
import { shown, toInternal, typedNumber, unitOf } from "../../ui/format";
import { Body, Strong } from "../../ui/words";
import type { Asked } from "./start-form";

/** Whether tap and bed can feed the pressure washer; nothing where the water comes out of a hose. */
export function WasherWords({ draft, units }: Asked) {
  const number = (text: string) => toInternal("flow", typedNumber(text) ?? NaN, units);
  const litres = toInternal("volume", typedNumber(draft.vessel) ?? NaN, units);
  if (draft.tool !== "washer" || !(litres > 0)) return null;
  const { diameter, fillFraction, grossVolume } = sizeOfLitres(litres);
  const [wanted, tap] = [number(draft.washer), number(draft.tapFlow)];
  const answer = feeding({ wanted, tap, resin: grossVolume * fillFraction, diameter, grade: draft.grade });
  if (!answer) return null;
  const flow = (value: number) => `${shown("flow", value, units).text} ${unitOf("flow", units)}`;
  const loss = shown("pressure", answer.pressureLoss, units);
  if (answer.state === "tap-short")
    return (
      <Body role="note" testID="washer-words">
        {`The tap gives ${flow(tap)}: less than the washer draws, which can harm its pump. Feed it from a barrel, or keep it for the wash.`}
      </Body>
    );
  return (
    <Explained explanation={answer.explanation} testID="washer-words">
      <Body role="note">
        {"Beads in this vessel keep up with about "}
        <Strong textDecorationLine="underline" textDecorationStyle="dotted">
          {flow(answer.bedTakes)}
        </Strong>
        {answer.state === "bed-short"
          ? "; faster, ions slip through. A larger vessel, or a hose for the last rinse."
          : `: tap and beads can feed it. The beads take ${loss.text} ${loss.unit} of the pressure.`}
      </Body>
    </Explained>
  );
}

/** What the water comes out of: a pressure washer draws its flow whatever stands before it. */
export function ToolAsked(props: Asked) {
  const { draft, patch, errors, units } = props;
  const flow = (name: "washer" | "tapFlow", label: string, hint: string, testID: string) => (
    <NumberField
      label={label}
      unit={unitOf("flow", units)}
      hint={hint}
      value={draft[name]}
      onChange={(value) => patch({ [name]: value })}
      testID={testID}
      error={errors[name]}
    />
  );
  return (
    <>
      <Choice
        label="It comes out of"
        value={draft.tool}
        options={[
          { value: "hose", label: "A hose or lance" },
          { value: "washer", label: "A pressure washer" },
        ]}
        onChange={(tool) => patch({ tool })}
        testID="start-tool"
      />
      {draft.tool === "washer" ? (
        <FieldRow>
          {flow("washer", "The washer draws", "Its plate says it", "start-washer")}
          {flow("tapFlow", "The open tap gives", "A bucket and a watch", "start-tap-flow")}
        </FieldRow>
      ) : null}
      <WasherWords {...props} />
    </>
  );
}
