import type { RecordKind } from "@winter-bead/contract";
import { useLocalSearchParams } from "expo-router";
import type { Kept } from "../data/api";
import { useRecords } from "../data/store";

/** The record named in the address, once the records are there; `undefined` for a new one. */
export function useNamed<K extends RecordKind>(
  kind: K,
): {
  readonly record: Kept<K> | undefined;
  readonly ready: boolean;
  /** The address names one that is not there. */
  readonly unknown: boolean;
  /** There is none, named or not: of a place where nothing new is made. */
  readonly missing: boolean;
} {
  const { id } = useLocalSearchParams<{ id?: string }>();
  const { records, pending } = useRecords(kind);
  const record = records.find((each) => each.id === id);
  const missing = !record && !pending;
  return { record, ready: !pending, unknown: id !== undefined && missing, missing };
}
