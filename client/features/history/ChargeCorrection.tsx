import {
  chargeLedgers,
  isAgainstReadings,
  reasonSeen,
  type BagInStock,
  type Charge,
  type ReasonSeen,
  type Vessel,
} from "@winter-bead/core";
import { fitting, stockOf } from "@winter-bead/core/src/stock/stock";
import { View } from "@tamagui/core";
import { router } from "expo-router";
import { useMemo } from "react";
import { bodyOf, changed, takenBack } from "../../data/acts";
import type { Kept } from "../../data/api";
import { useSettings } from "../../data/settings";
import { act, useRecords } from "../../data/store";
import { keepTyped } from "../../forms/keep-typed";
import { RecordField } from "../../forms/RecordField";
import { RecordForm } from "../../forms/RecordForm";
import { WaysOut, WhatChanged } from "../../forms/WaysOut";
import type { Texts } from "../../forms/texts";
import { useNamed } from "../../forms/useNamed";
import { useRecordForm } from "../../forms/useRecordForm";
import { HeavyButton, TextButton } from "../../ui/boxes";
import { FieldRow } from "../../ui/fields";
import { localDate } from "../../ui/format";
import { NotHere } from "../../ui/NotHere";
import { Screen } from "../../ui/Screen";
import { showToast } from "../../ui/toast";
import { Body } from "../../ui/words";
import { inBooks, type RigFacts } from "../rack/assess";
import { useRigFacts } from "../rack/useRigs";
import { besideCharge, chargeAsTyped, fillComplaints, reasonComplaints } from "../setup/charge-as-typed";
import { BagPortions } from "../setup/BagPortions";
import { bagComplaints, keptBoxes, portionsIn, sealedSteps, withBagsCorrected } from "../setup/from-bags";
import { EndFields, FillFields, PartUsedFields } from "../setup/ChargeFields";

/** The charge as corrected: an end that was asked about is confirmed, and none stays where none was. */
function correctedAsTyped(typed: Partial<Charge>, texts: Texts, seen: ReasonSeen | undefined) {
  const { ended, ...rest } = chargeAsTyped(typed as never, texts) as Partial<Charge>;
  if (!ended) return rest;
  const { confirmed: _, ...end } = ended;
  const right = texts["rightReason"] === ended.why && isAgainstReadings(ended.why, seen);
  return { ...rest, ended: { ...end, ...(right ? { confirmed: true } : {}) } };
}

/** The stock as it stood without this charge, on the day it was filled. */
function useStockBefore(charge: Kept<"charges">, vessel: Vessel): readonly BagInStock[] {
  const { records: bags } = useRecords("bags");
  const { records: charges } = useRecords("charges");
  return useMemo(() => {
    const others = charges.filter(({ id }) => id !== charge.id);
    const today = localDate(Date.parse(charge.filledAt));
    return fitting(stockOf({ bags, charges: others, today, dateOf: localDate }), vessel);
  }, [bags, charges, charge, vessel]);
}

function useCorrection(
  charge: Kept<"charges">,
  { vessel }: RigFacts,
  seen: ReasonSeen | undefined,
  stock: readonly BagInStock[],
) {
  const { units } = useSettings();
  const parts = useMemo(() => ({ charge: { kind: "charges" as const, before: charge } }), [charge]);
  const beside = useMemo(
    () => ({
      ...besideCharge(charge),
      ...keptBoxes(charge.from, units),
      // What was confirmed once need not be confirmed again.
      rightFill: String(charge.resinLitres),
      rightReason: charge.ended?.confirmed ? charge.ended.why : "",
    }),
    [charge, units],
  );
  return useRecordForm({
    name: `charge-correction:${charge.id}`,
    parts,
    beside,
    compose: (bodies, texts) => {
      const typed = correctedAsTyped(bodies["charge"] as Partial<Charge>, texts, seen) as Partial<Charge>;
      const portions = portionsIn(texts, stock, typed, units);
      return { charge: withBagsCorrected(typed, charge, portions, stock) };
    },
    check: (bodies, texts, units) => {
      const typed = bodies["charge"] as unknown as Charge;
      return [
        ...reasonComplaints("charge.ended.why", typed.ended?.why, seen, String(texts["rightReason"])),
        ...fillComplaints(typed, vessel, String(texts["rightFill"]), units),
        ...bagComplaints(typed.from ?? [], stock, typed, String(texts["rightBags"] ?? ""), units),
      ];
    },
  });
}

/** The charge before this one in the same vessel, where this one's filling was its end. */
const endedByThis = (charge: Charge, charges: readonly Kept<"charges">[]) =>
  charges.find((each) => each.vesselId === charge.vesselId && each.ended?.at === charge.filledAt);

/** A whole refill that never was: its charge is taken back, and the one before runs on. */
function NeverWas({
  charge,
  before,
  away,
}: {
  readonly charge: Kept<"charges">;
  readonly before: Kept<"charges">;
  readonly away: string;
}) {
  const { records: charges } = useRecords("charges");
  const { records: bags } = useRecords("bags");
  const undo = async () => {
    const { ended: _, ...runsOn } = bodyOf(before);
    const filledOn = localDate(Date.parse(charge.filledAt));
    const done = await act("Refill taken back", [
      takenBack("charges", charge),
      changed("charges", before, runsOn),
      ...sealedSteps(charge, charges, bags, filledOn),
    ]);
    showToast({ words: "The refill is taken back: the charge before runs on.", undo: done.undo });
    router.navigate(away);
  };
  return (
    <TextButton onPress={() => void undo()} testID="refill-never-was">
      This refill never was: let the charge before run on
    </TextButton>
  );
}

function Correction({ charge, facts }: { readonly charge: Kept<"charges">; readonly facts: RigFacts }) {
  const { records: charges } = useRecords("charges");
  const { rig, vessel } = facts;
  const seen = useMemo(() => {
    const ledger = chargeLedgers(inBooks(facts)).find((each) => each.charge.id === charge.id);
    return ledger && reasonSeen(ledger, vessel);
  }, [facts, charge.id, vessel]);
  const stock = useStockBefore(charge, vessel);
  const form = useCorrection(charge, facts, seen, stock);
  // Of an older charge only how its bag was kept is known.
  const isByBags = stock.length > 0 && (charge.from !== undefined || charge.stored === undefined);
  const away = `/history/${rig.id}`;
  const before = endedByThis(charge, charges);
  const save = () =>
    keepTyped(form, async (bodies) => {
      const body = bodies["charge"] as unknown as Charge;
      const moved = before && body.filledAt !== charge.filledAt && body.filledAt > before.filledAt;
      const steps = [
        changed("charges", charge, body),
        // One moment is the end of the one and the beginning of the other.
        ...(moved
          ? [changed("charges", before, { ...bodyOf(before), ended: { ...before.ended!, at: body.filledAt } })]
          : []),
      ];
      const done = await act(`Charge of ${rig.name} corrected`, steps);
      return { ...done, words: `Corrected: the charge of ${rig.name}.`, away };
    });
  return (
    <RecordForm form={form}>
      <FillFields
        form={form}
        vessel={vessel}
        bags={isByBags ? <BagPortions form={form} stock={stock} facts={facts} /> : undefined}
      />
      <FieldRow>
        <RecordField form={form} path="charge.minutes" />
      </FieldRow>
      <PartUsedFields form={form} />
      {charge.ended ? <EndFields form={form} part="charge" seen={seen} /> : null}
      {charge.ended ? (
        <View gap="$1">
          <RecordField
            form={form}
            path="charge.leftOut"
            label="What your charges hold is learnt from this one"
            options={[
              { value: "", label: "Yes" },
              { value: "yes", label: "No, leave it out" },
            ]}
          />
          <Body color="$soft">Leave out one that you know to be odd: a forgotten tap, a lent rig.</Body>
        </View>
      ) : null}
      <HeavyButton onPress={() => void save()} testID="save">
        Keep the correction
      </HeavyButton>
      {before && !charge.ended ? <NeverWas charge={charge} before={before} away={away} /> : null}
      <WaysOut kind="charges" record={charge} away={away} forget={form.forget} />
      <WhatChanged kind="charges" record={charge} />
    </RecordForm>
  );
}

/** A charge that was entered: looked at, dated, corrected, left out of what is learnt, or taken back. */
export function ChargeCorrection() {
  const { record, missing } = useNamed("charges");
  const { facts, pending } = useRigFacts();
  const found = facts.find(({ rig }) => rig.id === record?.rigId);
  if (missing || (!found && record && !pending)) return <NotHere what="charge" href="/history" way="To the history" />;
  return (
    <Screen title={found ? `A charge of ${found.rig.name}` : "Charge"}>
      {record && found ? (
        <Correction key={record.version} charge={record} facts={found} />
      ) : (
        <Body role="status">One moment…</Body>
      )}
    </Screen>
  );
}
