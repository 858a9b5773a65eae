import { clockNow } from "../../data/clock";
import { View } from "@tamagui/core";
import { whereabouts, type Whereabouts } from "@winter-bead/core/src/refill";
import { useRecords } from "../../data/store";
import { RecordField } from "../../forms/RecordField";
import type { RecordForm as Form } from "../../forms/useRecordForm";
import { dateInWords, localDate } from "../../ui/format";
import { Body, Small } from "../../ui/words";
import type { Guide } from "./useGuide";

/** Where a vessel is and what is in it, in words. */
export function whereWords({ rig, charge, emptySince }: Omit<Whereabouts, "vessel">, today: string): string {
  const day = (instant: string) => dateInWords(localDate(Date.parse(instant)), today);
  const where = rig ? `in ${rig.name}` : "in the pool";
  if (charge) return `${where}, filled ${day(charge.filledAt)}`;
  return emptySince === undefined ? `${where}, never filled` : `${where}, its last charge ended ${day(emptySince)}`;
}

/** Every vessel of the crew, and which is where. */
export function useWhereabouts(): readonly Whereabouts[] {
  const { records: vessels } = useRecords("vessels");
  const { records: rigs } = useRecords("rigs");
  const { records: charges } = useRecords("charges");
  const { records: arrangements } = useRecords("arrangements");
  return whereabouts({ vessels, rigs, charges, arrangements, now: clockNow() });
}

/** Which vessel comes in: one that hangs nowhere, and holds nothing that a log tells of. */
export function PoolChoice({ guide, form }: { readonly guide: Guide; readonly form: Form }) {
  const all = useWhereabouts();
  const today = localDate(guide.facts.now);
  const free = all.filter(({ rig, charge }) => rig === undefined && charge === undefined);
  if (free.length === 0)
    return (
      <View gap="$1">
        <Body color="$rowan">No vessel is free: set one up first, and leave it out of every rig.</Body>
        {all.map(({ vessel, ...rest }) => (
          <Small key={vessel.id}>{`${vessel.name}: ${whereWords(rest, today)}`}</Small>
        ))}
      </View>
    );
  return (
    <View gap="$2">
      <RecordField
        form={form}
        path="step.found.vesselId"
        label="Comes in"
        options={free.map(({ vessel }) => ({ value: vessel.id, label: vessel.name }))}
      />
      <RecordField form={form} path="step.found.filledOn" hint="Leave empty where it was filled today." />
      {all.map(({ vessel, ...rest }) => (
        <Small key={vessel.id} testID="whereabouts">{`${vessel.name}: ${whereWords(rest, today)}`}</Small>
      ))}
    </View>
  );
}
