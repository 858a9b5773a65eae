import { clockNow } from "../data/clock";
import { useQuery } from "@tanstack/react-query";
import { View } from "@tamagui/core";
import type { RecordKind } from "@winter-bead/contract";
import { KINDS } from "@winter-bead/core";
import { useState } from "react";
import { fetchVersions, type Kept } from "../data/api";
import { thisDevice } from "../data/device";
import { bringIntoUse, InUse, retire, takeBack, type Done } from "../data/store";
import { HeavyButton, TextButton } from "../ui/boxes";
import { momentInWords } from "../ui/format";
import { go } from "../ui/go";
import { showToast } from "../ui/toast";
import { Body, Heading, Small } from "../ui/words";
import type { RecordForm as Form } from "./useRecordForm";

type Retiring = "taps" | "meters" | "vessels" | "rigs";
const isRetiring = (kind: RecordKind): kind is Retiring => "retiredOn" in KINDS[kind].fields;

function useWaysOut<K extends RecordKind>(kind: K, record: Kept<K> | undefined, away: string, forget?: () => void) {
  const [trouble, setTrouble] = useState<string>();
  const finish = async (work: Promise<Done>, words: string) => {
    try {
      const { undo } = await work;
      forget?.();
      showToast({ words, undo });
      go(away);
    } catch (error) {
      if (!(error instanceof InUse)) throw error;
      setTrouble(error.message);
    }
  };
  const { one } = KINDS[kind];
  return {
    trouble,
    back: () => finish(takeBack(kind, record!), `The ${one} is taken back; its history stays.`),
    retire: () =>
      finish(retire(kind as Retiring, record as never), `The ${one} is retired: lists hide it, history keeps it.`),
    again: () => finish(bringIntoUse(kind as Retiring, record as never), `The ${one} is in use again.`),
  };
}

/** What else can be done with a record that is there: retire it, take it back. */
export function WaysOut<K extends RecordKind>({
  kind,
  record,
  away,
  forget,
}: {
  readonly kind: K;
  readonly record: Kept<K>;
  readonly away: string;
  readonly forget?: () => void;
}) {
  const ways = useWaysOut(kind, record, away, forget);
  const isRetired = (record as { readonly retiredOn?: string }).retiredOn !== undefined;
  return (
    <View gap="$1">
      {ways.trouble ? (
        <Body role="alert" color="$rowan" testID="in-use">
          {ways.trouble}
        </Body>
      ) : null}
      <View flexDirection="row" flexWrap="wrap" columnGap="$5">
        {isRetiring(kind) ? (
          <TextButton onPress={() => void (isRetired ? ways.again() : ways.retire())} testID="retire">
            {isRetired ? "Bring it into use again" : "Retire it: sold, broken, gone"}
          </TextButton>
        ) : null}
        <TextButton onPress={() => void ways.back()} testID="take-back">
          Take it back: entered wrongly
        </TextButton>
      </View>
    </View>
  );
}

/** The one heavy button of a form, and under it what else can be done with a record that is there. */
export function KeepRow<K extends RecordKind>({
  form,
  kind,
  record,
  away,
  onKeep,
  children,
}: {
  readonly form: Form;
  readonly kind: K;
  /** Absent for a new one. */
  readonly record: Kept<K> | undefined;
  /** Where it leads once the record is gone from the lists. */
  readonly away: string;
  readonly onKeep: () => Promise<unknown>;
  readonly children: string;
}) {
  return (
    <View gap="$3">
      <HeavyButton onPress={() => void onKeep()} testID="save">
        {children}
      </HeavyButton>
      {record ? <WaysOut kind={kind} record={record} away={away} forget={form.forget} /> : null}
      {record ? <WhatChanged kind={kind} record={record} /> : null}
    </View>
  );
}

const author = (name: string | undefined) => {
  if (name === undefined) return "";
  return name === `device ${thisDevice()}` ? ", on this device" : ", on another device";
};

/** Every version of a record, by what was done, when and where; only the server knows them. */
export function WhatChanged<K extends RecordKind>({ kind, record }: { readonly kind: K; readonly record: Kept<K> }) {
  const [open, setOpen] = useState(false);
  const { data, isError } = useQuery({
    queryKey: ["versions", kind, record.id, record.version],
    queryFn: ({ signal }) => fetchVersions(kind, record.id, signal),
    enabled: open,
    retry: false,
  });
  return (
    <View>
      <TextButton onPress={() => setOpen(!open)} expanded={open} testID="what-changed">
        {open ? "Close" : "What was changed"}
      </TextButton>
      {open ? (
        <View testID="versions" gap="$1">
          <Heading>What was changed</Heading>
          {isError ? <Small>Earlier versions come with a signal.</Small> : null}
          {(data ?? []).map(({ version, voided, act, author: by, acceptedAt }) => (
            <Body key={version}>
              {`${momentInWords(Date.parse(acceptedAt), clockNow())}: ${act.what}${voided ? ", taken back" : ""}${author(by)}`}
            </Body>
          ))}
        </View>
      ) : null}
    </View>
  );
}
