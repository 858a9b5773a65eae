import { View } from "@tamagui/core";
import { LOOK, onScale, positiveConductivityAt25, recordedEc25, type Found } from "@winter-bead/core";
import {
  firstReadingTroubles,
  missing,
  toolsFor,
  TROUBLES,
  wettingLoss,
  type GuideStep,
} from "@winter-bead/core/src/refill";
import { inUse } from "../../data/in-use";
import { useRecords } from "../../data/store";
import { RecordField } from "../../forms/RecordField";
import { optionsOf } from "../../forms/options";
import type { RecordForm as Form } from "../../forms/useRecordForm";
import { Pressable } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { scaleUnit, threeDigits } from "../../ui/format";
import { Big, Body, Small, Strong } from "../../ui/words";
import { useLastStanding } from "../rack/useLastStanding";
import { PoolChoice } from "./PoolChoice";
import type { Guide } from "./useGuide";

interface AskProps {
  readonly guide: Guide;
  readonly step: GuideStep;
  readonly form: Form;
}

const foundNow = (form: Form) => (form.bodiesNow()["step"] as { found?: Found }).found ?? {};

/** Counted with a thumb in a wet glove. */
function Count({
  form,
  name,
  label,
}: {
  readonly form: Form;
  readonly name: "tools" | "parts";
  readonly label: string;
}) {
  const value = foundNow(form)[name];
  const set = (next: number) => form.setValue(`step.found.${name}` as never, String(Math.max(0, next)) as never);
  const button = (words: string, sign: string, by: number) => (
    <Pressable
      onPress={() => set((value ?? 0) + by)}
      aria-label={words}
      testID={`${name}-${by > 0 ? "more" : "less"}`}
      backgroundColor="$card"
      borderColor="$ink"
      borderWidth={2}
      borderRadius="$3"
      width={60}
      minHeight={56}
    >
      <Big>{sign}</Big>
    </Pressable>
  );
  return (
    <View flexDirection="row" alignItems="center" gap="$3" role="group" aria-label={label}>
      {button(`One less: ${label}`, "−", -1)}
      <View minWidth={56} alignItems="center" aria-live="polite">
        <Big testID={`count-${name}`}>{value === undefined ? "–" : String(value)}</Big>
      </View>
      {button(`One more: ${label}`, "+", 1)}
      <Body flexShrink={1}>{label}</Body>
    </View>
  );
}

/** As many as at the start? */
function CountAgain({ guide, form, name }: AskProps & { readonly name: "tools" | "parts" }) {
  const now = foundNow(form)[name];
  const gone = guide.work && now !== undefined ? missing(guide.work, name, now) : undefined;
  const what = name === "tools" ? "tools" : "loose parts";
  const before = guide.work?.foundAt.get(name === "tools" ? "ready" : "parts")?.[name];
  return (
    <View gap="$1">
      <Count
        form={form}
        name={name}
        label={before === undefined ? `${what} now` : `${what} now; ${before} at the start`}
      />
      <Body role="status" color={gone ? "$rowan" : "$ink"} testID={`missing-${name}`}>
        {gone === undefined
          ? ""
          : gone === 0
            ? `All ${what} are there.`
            : gone > 0
              ? `${gone} of the ${what} missing: look before you close anything.`
              : `More ${what} than at the start: count again.`}
      </Body>
    </View>
  );
}

function Reading({
  form,
  withTotal,
  label,
}: {
  readonly form: Form;
  readonly withTotal: boolean;
  readonly label: string;
}) {
  const { records } = useRecords("meters");
  const meters = inUse(records);
  const id = String(form.watch("step.found.output.meterId" as never) ?? "");
  const meter = meters.find((each) => each.id === id);
  return (
    <View gap="$3">
      <FieldRow>
        <RecordField
          form={form}
          path="step.found.output.value"
          label={label}
          unit={scaleUnit(meter?.scale ?? "nacl")}
          testID="field-output"
          live
        />
        {withTotal ? <RecordField form={form} path="step.found.total" live /> : null}
        {meter?.compensated === false ? (
          <RecordField form={form} path="step.found.output.temperature" hint="This meter needs it" live />
        ) : null}
      </FieldRow>
      {meters.length > 1 ? (
        <RecordField
          form={form}
          path="step.found.output.meterId"
          label="By which meter"
          options={meters.map(({ id: value, name, scale }) => ({ value, label: `${name}, ${scaleUnit(scale)}` }))}
        />
      ) : null}
    </View>
  );
}

/** The scale of the meter that a step's reading is taken with. */
function useScale(form: Form) {
  const { records } = useRecords("meters");
  const id = String(form.watch("step.found.output.meterId" as never) ?? "");
  return records.find((each) => each.id === id)?.scale ?? "nacl";
}

/** A new membrane's figures beside its product, on the same meter's scale. */
function Baseline({ form }: { readonly form: Form }) {
  const scale = useScale(form);
  return (
    <FieldRow>
      <RecordField form={form} path="step.found.baseline.feed" unit={scaleUnit(scale)} live />
      {(["temperature", "pressure", "productFlow", "wasteFlow"] as const).map((name) => (
        <RecordField key={name} form={form} path={`step.found.baseline.${name}`} live />
      ))}
    </FieldRow>
  );
}

/** What the first reading says, while it is typed. */
function FirstReadingSays({ guide, form }: Omit<AskProps, "step">) {
  const { records: meters } = useRecords("meters");
  const standing = useLastStanding(guide.facts);
  const found = foundNow(form);
  if (found.output === undefined || !Number.isFinite(found.output.value)) return null;
  const ec25 = recordedEc25(found.output, new Map(meters.map((each) => [each.id, each])));
  const watch = positiveConductivityAt25({ value: guide.vessel.marks.watch, scale: guide.vessel.marks.scale });
  if (ec25 === undefined || !watch.ok) return null;
  const feed = standing?.feed.typical;
  const troubles = firstReadingTroubles(ec25, watch.value, feed);
  const { meterId, scale = meters.find(({ id }) => id === meterId)?.scale ?? "nacl" } = found.output;
  // In the scale of the meter in hand.
  const mark = `${threeDigits(onScale(watch.value, scale))} ${scaleUnit(scale)}`;
  if (troubles.length === 0)
    return (
      <Body role="status" testID="first-reading-says">
        {`Below the watch point of ${mark}: as it should be.`}
      </Body>
    );
  return (
    <View
      role="status"
      gap="$1"
      testID="first-reading-says"
      borderLeftColor="$rowan"
      borderLeftWidth={4}
      paddingLeft="$3"
    >
      <Strong>{`Above the watch point of ${mark}. Likeliest first:`}</Strong>
      {troubles.map((name) => (
        <Body key={name}>{`${TROUBLES[name].seen}: ${TROUBLES[name].help.join(" ")}`}</Body>
      ))}
    </View>
  );
}

const SEALS = [
  { value: "no", label: "As they were, greased" },
  { value: "yes", label: "Renewed" },
] as const;
const WETTED = [
  { value: "yes", label: "Pure water" },
  { value: "no", label: "Tap water" },
] as const;

/** Share of the beads that the tap water in them spends. */
function TapWaterSays({ guide, form }: Omit<AskProps, "step">) {
  const standing = useLastStanding(guide.facts);
  if (foundNow(form).pureWater !== false) return null;
  const share = standing && wettingLoss(standing.feed.typical, standing.gradeCapacity);
  return (
    <Body role="status" color="$soft">
      {share === undefined
        ? "Tap water spends some of the beads before the first job."
        : `Tap water spends about ${(100 * share).toPrecision(1)} % of the beads before the first job.`}
    </Body>
  );
}

/** What is typed, counted or chosen at a step. */
export function StepAsks(props: AskProps) {
  const { guide, step, form } = props;
  const has = (what: GuideStep["asks"][number]) => step.asks.includes(what);
  if (step.asks.length === 0) return null;
  return (
    <View gap="$3" testID="asks">
      {has("tools") ? (
        <View gap="$2">
          <Body testID="tools">{toolsFor(guide.setting).join(" · ")}</Body>
          <Count form={form} name="tools" label="things laid out" />
        </View>
      ) : null}
      {has("parts") ? <Count form={form} name="parts" label="loose parts" /> : null}
      {has("last-reading") ? <Reading form={form} withTotal label="Output" /> : null}
      {has("vessel-in") ? <PoolChoice guide={guide} form={form} /> : null}
      {has("resin") ? (
        <View gap="$3">
          <FieldRow>
            <RecordField form={form} path="step.found.resinLitres" live />
          </FieldRow>
          <RecordField form={form} path="step.found.grade" />
        </View>
      ) : null}
      {has("pure-water") ? (
        <>
          <RecordField form={form} path="step.found.pureWater" label="Wetted with" options={WETTED} />
          <TapWaterSays guide={guide} form={form} />
        </>
      ) : null}
      {has("look") ? (
        <>
          <RecordField form={form} path="step.found.look" options={optionsOf(LOOK)} />
          <RecordField form={form} path="step.note" label="Anything else" />
        </>
      ) : null}
      {has("seals") ? <RecordField form={form} path="step.found.newSeals" label="Seals" options={SEALS} /> : null}
      {has("parts-again") ? <CountAgain {...props} name="parts" /> : null}
      {has("first-reading") ? (
        <>
          <Reading form={form} withTotal={false} label={has("baseline") ? "Product" : "Output"} />
          {has("baseline") ? null : <FirstReadingSays guide={guide} form={form} />}
        </>
      ) : null}
      {has("baseline") ? <Baseline form={form} /> : null}
      {has("tools-again") ? <CountAgain {...props} name="tools" /> : null}
      {has("first-reading") && !has("baseline") ? (
        <Small>Not read? Leave it empty, and log it after a minute of flow.</Small>
      ) : null}
    </View>
  );
}
