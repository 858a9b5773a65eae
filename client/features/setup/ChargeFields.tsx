import { CONTAINER, type EndReason, type ReasonSeen, type Vessel } from "@winter-bead/core";
import { View } from "@tamagui/core";
import type { ReactNode } from "react";
import { optionsOf } from "../../forms/options";
import { BesideField, RecordField } from "../../forms/RecordField";
import type { RecordForm as Form } from "../../forms/useRecordForm";
import { PlainButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { Body, Heading } from "../../ui/words";
import { asksAboutFill, FRESH_BAG, NOT_USED, reasonWords } from "./charge-as-typed";

const YES_NO = [
  { value: "no", label: "No" },
  { value: "yes", label: "Yes" },
];

function Bag({ form }: { readonly form: Form }) {
  return (
    <>
      <BesideField
        form={form}
        name="bag"
        label="How the bag was kept"
        is="choice"
        options={[{ value: FRESH_BAG, label: "Just opened" }, ...optionsOf(CONTAINER)]}
      />
      {form.watch("beside.bag") === FRESH_BAG ? null : (
        <FieldRow>
          <RecordField form={form} path="charge.stored.months" />
          <RecordField form={form} path="charge.stored.warm" label="In a vehicle or the sun?" options={YES_NO} />
        </FieldRow>
      )}
    </>
  );
}

const USED_BEFORE = [
  { value: NOT_USED, label: "No, it was fresh" },
  { value: "jobs", label: "Yes, so many jobs" },
  { value: "weeks", label: "Yes, so many weeks" },
  { value: "unknown", label: "Yes, nobody knows" },
];

/** A charge that was taken over part-used: what had gone through it. */
export function PartUsedFields({ form }: { readonly form: Form }) {
  const by = form.watch("beside.partUsed");
  return (
    <View gap="$3">
      <BesideField form={form} name="partUsed" label="Was it part-used then?" is="choice" options={USED_BEFORE} />
      {by === "jobs" ? <RecordField form={form} path="charge.partUsed.jobs" label="Jobs it has done" /> : null}
      {by === "weeks" ? (
        <RecordField form={form} path="charge.partUsed.weeks" label="Filled so long ago" unit="weeks" />
      ) : null}
      {by === NOT_USED ? null : (
        <Body color="$soft">
          Its litres left start as a wide guess that your readings narrow; nothing is learnt from it.
        </Body>
      )}
    </View>
  );
}

/** What went into a vessel. */
export function FillFields({
  form,
  vessel,
  bags,
}: {
  readonly form: Form;
  readonly vessel: Vessel;
  /** The bags it came from, where stock is kept; else it is asked how the bag was kept. */
  readonly bags?: ReactNode;
}) {
  const asks = asksAboutFill(form.bodiesNow(), vessel, String(form.watch("beside.rightFill") ?? ""));
  const { resinLitres } = form.bodiesNow()["charge"] as { readonly resinLitres?: number };
  return (
    <>
      <RecordField form={form} path="charge.filledAt" />
      <RecordField form={form} path="charge.grade" />
      <FieldRow>
        <RecordField
          form={form}
          path="charge.resinLitres"
          hint={`${Math.round(100 * vessel.fillFraction)} % of ${vessel.name}`}
        />
        <RecordField form={form} path="charge.startTotal" hint="Leave empty without a meter." />
      </FieldRow>
      {asks ? (
        <PlainButton
          testID="right-fill"
          onPress={() => {
            form.setValue("beside.rightFill" as never, String(resinLitres) as never);
            form.clearErrors("charge.resinLitres" as never);
          }}
        >
          So much is right
        </PlainButton>
      ) : null}
      <RecordField form={form} path="charge.packing" />
      {bags ?? <Bag form={form} />}
    </>
  );
}

/** Why a charge ends: the reason that its last readings bear out stands there; another one is asked about. */
export function EndFields({
  form,
  part,
  seen,
}: {
  readonly form: Form;
  readonly part: "old" | "charge";
  readonly seen: ReasonSeen | undefined;
}) {
  const why = String(form.watch(`${part}.ended.why`) ?? "") as EndReason | "";
  const asks = seen && why !== "" && why !== "fault" && why !== seen.why && form.watch("beside.rightReason") !== why;
  return (
    <View gap="$3">
      <Heading>{part === "old" ? "The old charge" : "Its end"}</Heading>
      {part === "charge" ? <RecordField form={form} path="charge.ended.at" /> : null}
      <RecordField
        form={form}
        path={`${part}.ended.why`}
        hint={seen ? reasonWords(seen) : "Nothing was read near its end: say what you saw."}
      />
      {asks ? (
        <PlainButton
          testID="right-reason"
          onPress={() => {
            form.setValue("beside.rightReason" as never, why as never);
            form.clearErrors(`${part}.ended.why` as never);
          }}
        >
          It is right, whatever was read
        </PlainButton>
      ) : null}
      <RecordField form={form} path={`${part}.ended.note`} label="Note" />
    </View>
  );
}
