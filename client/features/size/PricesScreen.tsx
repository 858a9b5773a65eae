import { clockNow } from "../../data/clock";
import { DEFAULT_PRICES, type PriceList } from "@winter-bead/core";
import type { Field } from "@winter-bead/core/src/descriptor/field";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { change, keep, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { useRecordForm } from "../../forms/useRecordForm";
import { KeepRow } from "../../forms/WaysOut";
import { FieldRow } from "../../ui/fields";
import { dayOf, localDate, unitOf, type Units } from "../../ui/format";
import { Body, Heading, Small } from "../../ui/words";
import { SizeScreen } from "./SizeScreen";
import { usePrices, type CrewPrices } from "./usePrices";
import { resinByWeight } from "./work-words";

/** The figures of a list, in the order in which they are asked. */
const GROUPS: readonly { readonly name: string; readonly fields: readonly string[] }[] = [
  {
    name: "Resin",
    fields: ["resin.virgin", "resin.dyed", "resin.regenerated", "bulkShare", "delivery"],
  },
  {
    name: "Vessels and stages",
    fields: [
      ...["vesselBase", "vesselPerLitre", "membraneUnit", "membrane", "membraneYears", "prefiltersPerYear"],
      ...["boosterPump", "madeWaterTank", "aerator", "years"],
    ],
  },
  {
    name: "Water, power, time",
    fields: [
      ...["water", "waste", "power", "wage", "minutesPerRefill", "deliveryDays", "spoiltJob"],
      ...["minutesPerBatch", "minutesPerTank"],
      ...["flushPerWeek", "roomPerYear"],
    ],
  },
];

const MORE: Readonly<Record<string, string>> = { prefiltersPerYear: " a year", roomPerYear: " a year", power: "/kWh" };

/** What a price is per, in the user's money and units. */
function unitFor(name: string, field: Field, currency: string, units: Units): string | undefined {
  if (field.is !== "number") return undefined;
  if (name === "bulkShare") return "of the bag’s price";
  switch (field.quantity) {
    case "perResinVolume":
      return `${currency}/${unitOf("resinVolume", units)}`;
    case "perVolume":
      return `${currency}/${unitOf("volume", units)}`;
    case "perBulk":
      return units === "us" ? `${currency}/1000 gal` : `${currency}/m³`;
    case "volume":
      return `${unitOf("volume", units)} a week`;
    default:
      return field.range.unit === "units of your money" ? `${currency}${MORE[name] ?? ""}` : undefined;
  }
}

function PriceForm({ known }: { readonly known: CrewPrices }) {
  const { list } = known;
  const parts = useMemo(
    () => ({
      list: {
        kind: "price-lists" as const,
        // An older list does not say all of it: the defaults stand in.
        before: { ...list, currency: known.currency, prices: { ...DEFAULT_PRICES, ...known.prices } },
      },
    }),
    [list, known],
  );
  const form = useRecordForm({
    name: `prices:${list?.version ?? 0}`,
    parts,
    compose: (bodies) => ({ list: { ...bodies["list"], setOn: localDate(clockNow()) } }),
  });
  const currency = String(form.watch("list.currency"));
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["list"] as unknown as PriceList;
      const done = await (list ? change("price-lists", list, body) : keep("price-lists", body));
      return { ...done, words: "Kept: your prices. Every plan you look at from now on counts with them." };
    });
  return (
    <RecordForm form={form}>
      <Body role="note" testID="prices-from">
        {known.assumed
          ? `These are planning assumptions, set down on ${known.from.replace("assumption of ", "")}: put in what you pay.`
          : `Your prices of ${dayOf(list!.setOn)}. Change what has changed.`}
      </Body>
      <RecordField form={form} path="list.currency" label="Currency" />
      {GROUPS.map(({ name, fields }) => (
        <View key={name} gap="$3">
          <Heading>{name}</Heading>
          {name === "Resin" ? <Small>{resinByWeight(form.units)}</Small> : null}
          <FieldRow>
            {fields.map((field) => {
              const path = `list.prices.${field}`;
              const unit = unitFor(field, form.fieldOf(path), currency, form.units);
              return (
                <RecordField
                  key={field}
                  form={form}
                  path={path}
                  {...(unit ? { unit } : {})}
                  testID={`field-${field.replace(".", "_")}`}
                />
              );
            })}
          </FieldRow>
        </View>
      ))}
      <KeepRow form={form} kind="price-lists" record={list} away="/size/prices" onKeep={save}>
        Keep these prices
      </KeepRow>
    </RecordForm>
  );
}

/** What things cost here: dated defaults until the crew puts in its own. */
export function PricesScreen() {
  const { pending } = useRecords("price-lists");
  const known = usePrices();
  return (
    <SizeScreen title="Your prices">
      {pending ? (
        <Body role="status">One moment…</Body>
      ) : (
        <PriceForm key={String(known.list?.version ?? 0)} known={known} />
      )}
    </SizeScreen>
  );
}
