import { View } from "@tamagui/core";
import { useState } from "react";
import { useSettings } from "../../data/settings";
import { change, keep, useRecords } from "../../data/store";
import { HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { FormNumber, FormText, FormTrouble, placeComplaints, useKeptForm } from "../../ui/form";
import { localDate, type Units } from "../../ui/format";
import { showToast } from "../../ui/toast";
import { Body, Heading, Small } from "../../ui/words";
import { recordCheck } from "../record-check";
import { nameOf, PRICE_FIELDS, PRICE_GROUPS, priceValues, pricesOf, type PriceValues } from "./price-values";
import { SizeScreen } from "./SizeScreen";
import { usePrices, type CrewPrices } from "./usePrices";
import { resinByWeight } from "./work-words";

const COMPLAINT_FIELDS = Object.fromEntries(PRICE_FIELDS.map(({ path }) => [`prices.${path}`, nameOf(path)]));

function PriceForm({ known, units }: { readonly known: CrewPrices; readonly units: Units }) {
  const [trouble, setTrouble] = useState<string>();
  const form = useKeptForm<PriceValues>(
    `prices:${known.list?.version ?? 0}:${units}`,
    priceValues(known.prices, known.currency, units),
  );
  const { control, getValues, watch, clearErrors } = form;
  const currency = watch("currency") ?? known.currency;
  const save = async () => {
    const complaintsAbout = await recordCheck();
    clearErrors();
    const values = getValues();
    const body = {
      setOn: localDate(Date.now()),
      currency: (values["currency"] ?? "").trim().toUpperCase(),
      prices: pricesOf(values, units),
    };
    const complaints = complaintsAbout("price-lists", body);
    setTrouble(placeComplaints(form, complaints, COMPLAINT_FIELDS));
    if (complaints.length > 0) return;
    const { undo } = await (known.list ? change("price-lists", known.list, body) : keep("price-lists", body));
    form.forget();
    showToast({ words: "Kept: your prices. Every plan you look at from now on counts with them.", undo });
  };
  return (
    <View gap="$5">
      <Body role="note" testID="prices-from">
        {known.assumed
          ? `These are planning assumptions, set down on ${known.from.replace("assumption of ", "")}: put in what you pay.`
          : `Set down on ${known.list!.setOn}. Change what has changed.`}
      </Body>
      <FormText control={control} name="currency" label="Currency, three letters" hint="Such as EUR, USD or GBP." />
      {PRICE_GROUPS.map(({ name, fields }) => (
        <View key={name} gap="$3">
          <Heading>{name}</Heading>
          {name === "Resin" ? <Small>{resinByWeight(units)}</Small> : null}
          <FieldRow>
            {fields.map(({ path, label, unit }) => (
              <FormNumber key={path} control={control} name={nameOf(path)} label={label} unit={unit(currency, units)} />
            ))}
          </FieldRow>
        </View>
      ))}
      <FormTrouble words={trouble} />
      <HeavyButton onPress={() => void save()} testID="save">
        Keep these prices
      </HeavyButton>
    </View>
  );
}

/** What things cost here: dated defaults until the crew puts in its own. */
export function PricesScreen() {
  const { units } = useSettings();
  const { pending } = useRecords("price-lists");
  const known = usePrices();
  return (
    <SizeScreen title="Your prices">
      {pending ? (
        <Body role="status">One moment…</Body>
      ) : (
        <PriceForm key={`${known.list?.version ?? 0}:${units}`} known={known} units={units} />
      )}
    </SizeScreen>
  );
}
