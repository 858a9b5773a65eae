import { chargeLedgers, reasonSeen, wetWeight, type Charge, type Vessel } from "@winter-bead/core";
import { fitting, stockOf } from "@winter-bead/core/src/stock/stock";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { useSettings } from "../../data/settings";
import { act, useRecords } from "../../data/store";
import { useTrains } from "../../data/trains";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { Caution, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { localDate, shown } from "../../ui/format";
import { Body, Heading } from "../../ui/words";
import { inBooks, type RigFacts } from "../rack/assess";
import { BagPortions } from "./BagPortions";
import { refillSteps, useRefillForm } from "./refill-form";
import { usePlaceAfter } from "./usePlaceAfter";
import { EndFields, FillFields, PartUsedFields } from "./ChargeFields";

function Cautions({ vessel, resin }: { readonly vessel: Vessel; readonly resin: number }) {
  const { units } = useSettings();
  const weight = wetWeight({
    empty: vessel.emptyWeight ?? 0,
    resin: Math.min(vessel.grossVolume, resin),
    grossVolume: vessel.grossVolume,
  });
  const heavy = weight.ok ? shown("weight", weight.value.kilograms, units) : undefined;
  const lift = weight.ok && weight.value.twoPeople ? ": lift with two or lay it down" : "";
  return (
    <>
      <Caution>Shut the feed and open the outlet to let the pressure down before you loosen anything.</Caution>
      {heavy ? (
        <Caution>{`The wet vessel weighs about ${heavy.text} ${heavy.unit}${lift}; follow your local lifting rules.`}</Caution>
      ) : null}
      <Caution>
        Gloves and eye protection; keep beads off the floor and out of drains. The maker's safety data sheet has the
        last word.
      </Caution>
    </>
  );
}

/** A refill: the old charge ends with its reason, the new one begins; kept together, undone together. */
export function ChargeForm({ facts }: { readonly facts: RigFacts }) {
  const { rig, vessel } = facts;
  const { records: charges } = useRecords("charges");
  const open = charges.find((charge) => charge.vesselId === vessel.id && charge.ended === undefined);
  const seen = useMemo(() => {
    const ledger = chargeLedgers(inBooks(facts)).find(({ charge }) => charge.id === open?.id);
    return ledger && reasonSeen(ledger, vessel);
  }, [facts, open?.id, vessel]);
  const { records: bags } = useRecords("bags");
  const stock = useMemo(
    () => fitting(stockOf({ bags, charges, today: localDate(facts.now), dateOf: localDate }), vessel),
    [bags, charges, facts.now, vessel],
  );
  const form = useRefillForm(facts, open, seen, stock);
  const placeAfter = usePlaceAfter(facts, vessel.id);
  const trains = useTrains();
  const inTrain = trains.at(rig.id, facts.now).map(({ vesselId }) => vesselId);
  const isFilled = (id: string) => charges.some((each) => each.vesselId === id && each.ended === undefined);
  // A train that is begun is filled vessel by vessel.
  const next = inTrain.find((id) => id !== vessel.id && !isFilled(id));

  const save = () =>
    keepTyped(form, async (bodies) => {
      const charge = bodies["charge"] as unknown as Charge;
      const steps = [...refillSteps(bodies, open, bags), ...(open ? placeAfter.steps(vessel.id, charge.filledAt) : [])];
      const done = await act(`Refill of ${rig.name}`, steps, charge.filledAt);
      if (next)
        return { ...done, words: `${vessel.name} is filled.`, away: `/setup/charge?rig=${rig.id}&vessel=${next}` };
      const words = `${rig.name} is filled. Log its first reading after a minute of flow.`;
      return { ...done, words, away: `/?rig=${rig.id}` };
    });

  return (
    <RecordForm form={form}>
      <Cautions vessel={vessel} resin={open?.resinLitres ?? vessel.grossVolume * vessel.fillFraction} />
      {open ? <EndFields form={form} part="old" seen={seen} /> : null}
      {open ? (
        <Body color="$soft">
          Spent beads are usually ordinary waste, bagged; ask your local authority or the supplier.
        </Body>
      ) : null}
      <View gap="$4">
        <Heading>The new charge</Heading>
        <FillFields
          form={form}
          vessel={vessel}
          bags={stock.length > 0 ? <BagPortions form={form} stock={stock} facts={facts} /> : undefined}
        />
        <FieldRow>
          <RecordField
            form={form}
            path="charge.minutes"
            hint="From setting out to the first reading; the next plan counts with it."
          />
        </FieldRow>
        {inTrain.length > 1 ? <RecordField form={form} path="charge.beads" /> : null}
        {open ? null : <PartUsedFields form={form} />}
        {open ? placeAfter.asked : null}
      </View>
      <HeavyButton onPress={() => void save()} testID="save">
        {open ? "Close the old, start the new" : "Start this charge"}
      </HeavyButton>
    </RecordForm>
  );
}
