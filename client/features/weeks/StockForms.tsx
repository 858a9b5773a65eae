import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { BAG_FORM, DRAINED_RESIN_WEIGHT, type Bag, type Disposal } from "@winter-bead/core";
import { bagWorth, explainWorth, stockOf } from "@winter-bead/core/src/weeks";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { optionsOf } from "../../forms/options";
import { BesideField, RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import type { Bodies } from "../../forms/resolve";
import { internalNumber, numberText, shownNumber, type Texts } from "../../forms/texts";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm, type RecordForm as Form } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { TextButton } from "../../ui/boxes";
import { Explained } from "../../ui/Explained";
import { FieldRow } from "../../ui/fields";
import { localDate, shown, typedNumber, unitOf, type Units } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { Body, Heading, Small } from "../../ui/words";
import { usePrices } from "../size/usePrices";
import { bagName, pastDay } from "./words";
import { worthWords } from "./StockScreen";

const OPEN = [
  { value: "", label: "Not opened" },
  { value: "rolled-or-zip", label: "Rolled or zip" },
  { value: "heat-resealed", label: "Heat-resealed" },
  { value: "snap-lid-pail", label: "Snap-lid pail" },
  { value: "left-open", label: "Left open" },
];

/** A bag as it is typed: by volume, or by the weight that stands on it. */
function bagAsTyped(bodies: Bodies, { kilograms }: Texts, units: Units): Bodies {
  const bag = bodies["bag"] as Partial<Bag>;
  const weight = typedNumber(String(kilograms ?? ""));
  const { price, currency, openedOn, closed } = bag;
  return {
    bag: {
      ...bag,
      ...(weight === undefined ? {} : { litres: internalNumber("weight", weight, units) / DRAINED_RESIN_WEIGHT }),
      currency: price === undefined ? undefined : currency,
      closed: openedOn === undefined ? undefined : closed,
    } as Record<string, unknown>,
  };
}

const NO_WEIGHT: Texts = { kilograms: "" };

/** How old it is and what of it is left. */
function AgeFields({
  form,
  typed,
  today,
  isNew,
}: {
  readonly form: Form;
  readonly typed: Bag;
  readonly today: string;
  readonly isNew: boolean;
}) {
  return (
    <>
      <Heading>Its age</Heading>
      <FieldRow>
        <RecordField form={form} path="bag.boughtOn" />
        <RecordField
          form={form}
          path="bag.madeOn"
          hint="Unknown? Leave it empty: its worth is a range then. Ask the seller when it was made, by its lot."
        />
      </FieldRow>
      <RecordField form={form} path="bag.packing" />
      <RecordField form={form} path="bag.openedOn" hint="Empty while it is sealed." />
      {typed.openedOn ? <RecordField form={form} path="bag.closed" options={OPEN.slice(1)} /> : null}
      <RecordField
        form={form}
        path="bag.warm"
        label="Kept in a vehicle or in the sun?"
        options={[
          { value: "no", label: "No" },
          { value: "yes", label: "Yes: it ages twice as fast" },
        ]}
      />
      <Body role="status" testID="bag-worth">
        {`Today ${worthWords({ bag: typed, worth: bagWorth(typed, today), left: typed.litres, taken: [] })}`}
      </Body>
      {isNew ? null : (
        <>
          <Heading>{typed.form === "loose" ? "What is in it" : "Where it is"}</Heading>
          <FieldRow>
            <RecordField form={form} path="bag.counted.litres" label="Counted in it" />
            <RecordField form={form} path="bag.counted.on" label="on" />
          </FieldRow>
          <RecordField form={form} path="bag.gone.why" label="The rest" />
          <RecordField form={form} path="bag.gone.on" label="on" />
        </>
      )}
    </>
  );
}

/** L of the bag that is most often bought. */
const USUAL_BAG = 25;

function BagForm({ bag }: { readonly bag: Kept<"bags"> | undefined }) {
  const { currency } = usePrices();
  const { records: bags } = useRecords("bags");
  const { records: vessels } = useRecords("vessels");
  const today = useMemo(() => localDate(clockNow()), []);
  const parts = useMemo(
    () => ({
      bag: {
        kind: "bags" as const,
        before:
          bag ??
          ({
            ...{ name: `Bag ${bags.length + 1}`, form: "loose", grade: "virgin", litres: USUAL_BAG, boughtOn: today },
            ...{ packing: "foil", warm: false, currency },
          } as Readonly<Record<string, unknown>>),
      },
    }),
    // The name is proposed once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [bag, today, currency],
  );
  const form = useRecordForm({
    name: `bag:${bag?.id ?? "new"}`,
    parts,
    beside: NO_WEIGHT,
    compose: bagAsTyped,
    places: { "bag.litres": "bag.litres" },
  });
  const typed = form.bodiesNow()["bag"] as unknown as Bag;
  // A cartridge is called and holds what one of the crew's housings takes, until something else is typed.
  const housing = vessels.find(({ kind, retiredOn }) => kind === "cartridge" && retiredOn === undefined);
  const proposedName = (as: Bag["form"]) => `${as === "loose" ? "Bag" : "Cartridge"} ${bags.length + 1}`;
  const proposedLitres = (as: Bag["form"]) =>
    as === "cartridge" && housing ? housing.grossVolume * housing.fillFraction : USUAL_BAG;
  const propose = (as: Bag["form"]) => {
    const before = as === "loose" ? "cartridge" : "loose";
    if (typed.name === proposedName(before)) form.setValue("bag.name" as never, proposedName(as) as never);
    const litres = shownNumber("resinVolume", proposedLitres(as), form.units);
    if (Math.abs(typed.litres - proposedLitres(before)) < 0.01 * typed.litres)
      form.setValue("bag.litres" as never, numberText(Number(litres.toPrecision(3))) as never);
  };
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["bag"] as unknown as Bag;
      return {
        ...(await (bag ? change("bags", bag, body) : keep("bags", body))),
        words: `Kept: ${body.name}.`,
        away: "/weeks/stock",
      };
    });
  const kilograms = shown("weight", (typed.litres ?? 0) * DRAINED_RESIN_WEIGHT, form.units);
  return (
    <RecordForm form={form}>
      <RecordField
        form={form}
        path="bag.form"
        options={optionsOf(BAG_FORM)}
        {...(bag ? {} : { onChosen: (as: string) => propose(as as Bag["form"]) })}
      />
      <RecordField form={form} path="bag.grade" />
      <FieldRow>
        <RecordField form={form} path="bag.litres" />
        <BesideField
          form={form}
          name="kilograms"
          label="or by weight"
          unit={unitOf("weight", form.units)}
          is="number"
        />
      </FieldRow>
      {Number.isFinite(typed.litres) ? (
        <Small>{`Drained it weighs about ${kilograms.text} ${kilograms.unit}.`}</Small>
      ) : null}
      <FieldRow>
        <RecordField form={form} path="bag.name" />
        <RecordField form={form} path="bag.lot" />
      </FieldRow>
      <FieldRow>
        <RecordField form={form} path="bag.price" unit={String(form.watch("bag.currency") ?? currency)} />
        <RecordField form={form} path="bag.place" />
      </FieldRow>
      <AgeFields form={form} typed={typed} today={today} isNew={bag === undefined} />
      <RecordField form={form} path="bag.note" label="Note" />
      <KeepRow form={form} kind="bags" record={bag} away="/weeks/stock" onKeep={save}>
        {bag ? "Keep the change" : typed.form === "cartridge" ? "Keep this cartridge" : "Keep this bag"}
      </KeepRow>
    </RecordForm>
  );
}

/** What went out of a bag, and its label. */
function BagHistory({ bag }: { readonly bag: Kept<"bags"> }) {
  const { records: charges } = useRecords("charges");
  const { records: rigs } = useRecords("rigs");
  const { units } = useSettings();
  const volume = (litres: number) => {
    const { text, unit } = shown("resinVolume", litres, units);
    return `${text} ${unit}`;
  };
  const facts = { bags: [bag], charges, today: localDate(clockNow()), dateOf: localDate };
  const [stock] = stockOf(facts);
  return (
    <View gap="$2" paddingBottom="$3">
      {stock!.taken.map(({ charge, litres }) => (
        <TextButton key={charge.id} href={`/history/charge?id=${charge.id}`}>
          {`${pastDay(localDate(Date.parse(charge.filledAt)))}: ${volume(litres)} into ${rigs.find(({ id }) => id === charge.rigId)?.name ?? "a vessel"}`}
        </TextButton>
      ))}
      <Explained explanation={explainWorth(stock!)} label="Why it is worth that" />
      <TextButton href={`/weeks/label?bag=${bag.id}`}>Print its label</TextButton>
    </View>
  );
}

/** A bag of resin or a cartridge: noted, opened, counted, corrected. */
export function BagPlace() {
  const { record, ready, unknown } = useNamed("bags");
  if (unknown) return <NotHere what="bag" href="/weeks/stock" way="To the stock" />;
  return (
    <Screen title={record ? bagName(record) : "Note a bag or a cartridge"}>
      {record ? <BagHistory bag={record} /> : null}
      {ready ? <BagForm key={record?.version ?? "new"} bag={record} /> : <Body role="status">One moment…</Body>}
    </Screen>
  );
}

function DisposalForm({
  disposal,
  litres,
}: {
  readonly disposal: Kept<"disposals"> | undefined;
  readonly litres: number | undefined;
}) {
  const today = useMemo(() => localDate(clockNow()), []);
  const parts = useMemo(
    () => ({
      disposal: { kind: "disposals" as const, before: disposal ?? { on: today, ...(litres ? { litres } : {}) } },
    }),
    [disposal, today, litres],
  );
  const form = useRecordForm({ name: `disposal:${disposal?.id ?? "new"}`, parts });
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["disposal"] as unknown as Disposal;
      return {
        ...(await (disposal ? change("disposals", disposal, body) : keep("disposals", body))),
        words: "Kept: spent resin taken away.",
        away: "/weeks/stock",
      };
    });
  return (
    <RecordForm form={form}>
      <RecordField form={form} path="disposal.on" />
      <RecordField form={form} path="disposal.litres" />
      <RecordField form={form} path="disposal.to" hint="As your local authority or the supplier said." />
      <RecordField form={form} path="disposal.note" label="Note" />
      <KeepRow form={form} kind="disposals" record={disposal} away="/weeks/stock" onKeep={save}>
        Keep it
      </KeepRow>
    </RecordForm>
  );
}

/** Spent resin that was taken away. */
export function DisposalPlace() {
  const { record, ready, unknown } = useNamed("disposals");
  const { litres } = useLocalSearchParams<{ litres?: string }>();
  if (unknown) return <NotHere what="disposal" href="/weeks/stock" way="To the stock" />;
  return (
    <Screen title="Spent resin taken away">
      {ready ? (
        <DisposalForm key={record?.version ?? "new"} disposal={record} litres={litres ? Number(litres) : undefined} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
