import {
  chargeLedgers,
  isAgainstReadings,
  reasonSeen,
  wetWeight,
  type BagInStock,
  type Charge,
  type ReasonSeen,
  type Vessel,
} from "@winter-bead/core";
import { fitting, stockOf } from "@winter-bead/core/src/stock/stock";
import { View } from "@tamagui/core";
import { useMemo } from "react";
import { changed, kept } from "../../data/acts";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { act, newId, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import type { Bodies } from "../../forms/resolve";
import type { Texts } from "../../forms/texts";
import { useRecordForm } from "../../forms/useRecordForm";
import { Caution, HeavyButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { localDate, shown } from "../../ui/format";
import { Body, Heading } from "../../ui/words";
import { inBooks, type RigFacts } from "../rack/assess";
import { besideCharge, chargeAsTyped, fillComplaints, reasonComplaints, usualFill } from "./charge-as-typed";
import { BagPortions } from "./BagPortions";
import { bagComplaints, openedSteps, portionsIn, withBags } from "./from-bags";
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

/** The end of the charge in use: when the new one is filled, for the reason typed, confirmed where it was asked about. */
function endedAsTyped(open: Charge, old: Partial<Charge>, at: string, beside: Texts, seen: ReasonSeen | undefined) {
  const { why, note } = old.ended ?? {};
  const confirmed = why !== undefined && beside["rightReason"] === why && isAgainstReadings(why, seen);
  const ended = { at, why, ...(note ? { note } : {}), ...(confirmed ? { confirmed } : {}) };
  return { ...open, ended };
}

const PLACES = { "old.ended.at": "charge.filledAt", "charge.stored.container": "beside.bag" };

/** The form of a refill: the old charge ends, the new one begins, both when it was done. */
function useRefillForm(
  { rig, vessel }: RigFacts,
  open: Kept<"charges"> | undefined,
  seen: ReasonSeen | undefined,
  stock: readonly BagInStock[],
) {
  const { units } = useSettings();
  const opened = useMemo(() => new Date().toISOString(), []);
  const fresh = useMemo(
    () => ({
      vesselId: vessel.id,
      rigId: rig.id,
      grade: open?.grade ?? "virgin",
      resinLitres: usualFill(vessel, units),
      packing: "settled",
      filledAt: opened,
    }),
    [vessel, rig.id, open, opened, units],
  );
  const parts = useMemo(
    () => ({
      charge: { kind: "charges" as const, before: fresh },
      ...(open
        ? { old: { kind: "charges" as const, before: { ...open, ended: seen ? { why: seen.why } : undefined } } }
        : {}),
    }),
    [fresh, open, seen],
  );
  const beside = useMemo(
    // Of a vessel that is filled for the first time nobody knows whether its resin came from the shelf.
    () => ({ ...besideCharge(undefined), fromBags: open && stock.length > 0 ? "proposed" : "none", rightBags: "" }),
    [stock.length, open],
  );
  return useRecordForm({
    name: `charge:${vessel.id}`,
    parts,
    beside,
    places: PLACES,
    compose: ({ charge, old }: Bodies, texts) => {
      const plain = chargeAsTyped(charge!, texts) as Partial<Charge>;
      const typed = withBags(plain, portionsIn(texts, stock, plain, units), stock);
      // Not touched, it is filled when it is kept, not when the form was opened.
      const at = typed.filledAt === opened ? new Date().toISOString() : typed.filledAt!;
      return {
        charge: { ...typed, filledAt: at },
        ...(open && old ? { old: bodyWithout(endedAsTyped(open, old as Partial<Charge>, at, texts, seen)) } : {}),
      };
    },
    check: (bodies, texts, units) => {
      const old = bodies["old"] as Partial<Charge> | undefined;
      const charge = bodies["charge"] as unknown as Charge;
      return [
        ...reasonComplaints("old.ended.why", old?.ended?.why, seen, String(texts["rightReason"])),
        ...fillComplaints(charge, vessel, String(texts["rightFill"]), units),
        ...bagComplaints(charge.from ?? [], stock, charge, String(texts["rightBags"] ?? ""), units),
      ];
    },
  });
}

const bodyWithout = ({ id: _id, version: _v, voided: _b, ...body }: Record<string, unknown>) => body;

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

  const save = () =>
    keepTyped(form, async (bodies) => {
      const charge = bodies["charge"] as unknown as Charge;
      const steps = [
        ...(open ? [changed("charges", open, bodies["old"] as never)] : []),
        kept("charges", charge, newId()),
        ...openedSteps(charge.from ?? [], bags, localDate(Date.parse(charge.filledAt))),
      ];
      const done = await act(`Refill of ${rig.name}`, steps, charge.filledAt);
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
        {open ? null : <PartUsedFields form={form} />}
      </View>
      <HeavyButton onPress={() => void save()} testID="save">
        {open ? "Close the old, start the new" : "Start this charge"}
      </HeavyButton>
    </RecordForm>
  );
}
