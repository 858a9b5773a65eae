import type { Body, Put, RecordKind } from "@winter-bead/contract";
import { inUseWords, KINDS, RECORD_KINDS, type Id, type Kind, type Users } from "@winter-bead/core";
import { mayName, referencesIn } from "@winter-bead/core/src/descriptor/references";
import { onlineManager, QueryClient, useIsRestoring, useQueries, useQuery } from "@tanstack/react-query";
import { persistQueryClientSave, type PersistedClient, type Persister } from "@tanstack/react-query-persist-client";
import { del, get, set } from "idb-keyval";
import { useSyncExternalStore } from "react";
import { localDate } from "../ui/format";
import { actOf, bodyOf, changed, kept, takenBack, undoOf, type Step } from "./acts";
import { fetchAll, OutOfReach, type Kept } from "./api";
import { clockNow, clockNowIso, subscribeClockSet } from "./clock";
import { exampleStore, isExample } from "./example";
import { newId } from "./new-id";
import { Outbox, type OutboxState } from "./outbox";
import { layAnswers } from "./lay-answers";
import { askedAgain } from "./kept-lists";
import { keyOf } from "./list-key";
import { listsToday } from "./older-shapes";
import { overlay } from "./overlay";
import { reach } from "./reach";

export { newId };

const FRESH_FOR = 20_000;

/** Lists wait while the server is out of reach, and are asked for again once it is back: one place asks, not each list. */
onlineManager.setEventListener((setOnline) => reach.subscribe(() => setOnline(reach.snapshot().state !== "lost")));

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: FRESH_FOR,
      gcTime: Infinity,
      networkMode: "online",
      retry: (_count, error) => error instanceof OutOfReach,
      retryDelay: 0,
      refetchOnWindowFocus: true,
    },
  },
});

subscribeClockSet(() => void queryClient.invalidateQueries({ queryKey: ["records"] }));

const PERSIST_KEY = "winter-bead-queries";
const PERSIST_AFTER = 400;
const lists = isExample ? exampleStore() : undefined;
let pending: ReturnType<typeof setTimeout> | undefined;

/** Answers of the server, kept on this device so that the app opens without a signal. */
const persister: Persister = {
  persistClient: (client: PersistedClient) => {
    clearTimeout(pending);
    // Without room the next start asks the server for what is not here.
    pending = setTimeout(() => void set(PERSIST_KEY, client, lists).catch(() => undefined), PERSIST_AFTER);
  },
  restoreClient: async () => {
    const kept = await get<PersistedClient>(PERSIST_KEY, lists);
    return kept && askedAgain(listsToday(kept));
  },
  removeClient: () => del(PERSIST_KEY, lists),
};

/** Kept even when the last fetch failed: old facts beat none. */
const shouldDehydrateQuery = (query: {
  readonly queryKey: readonly unknown[];
  readonly state: { readonly data: unknown };
}) => query.queryKey[0] === "records" && query.state.data !== undefined;

export const persistOptions = { persister, maxAge: Infinity, buster: "1", dehydrateOptions: { shouldDehydrateQuery } };

/** Writes what is known to this device without waiting for a quiet moment. */
const persistNow = () =>
  persistQueryClientSave({
    queryClient,
    ...persistOptions,
    persister: { ...persister, persistClient: (client) => set(PERSIST_KEY, client, lists) },
  });

let restoredHere: () => void;
/** Resolves once the lists kept on this device are back, or are known to be lost. */
const restored = new Promise<void>((resolve) => (restoredHere = resolve));

const listQuery = <K extends RecordKind>(kind: K) => ({
  queryKey: keyOf(kind),
  queryFn: ({ signal }: { signal: AbortSignal }) => fetchAll(kind, signal),
});

/**
 * The lists kept on this device are back: they are shown at once, and the server is asked for what has changed since. Every
 * kind is asked for at the start, so that a place opened for the first time without a signal has what it speaks of.
 */
export const onRestored = async () => {
  for (const kind of RECORD_KINDS) void queryClient.prefetchQuery({ ...listQuery(kind), staleTime: 0 });
  restoredHere();
};

/** Answers wait for the kept lists, or these would come after them and, older, stand for fresh. */
export const outbox = new Outbox(
  async (accepted) => {
    await restored;
    await layAnswers(queryClient, accepted);
    await persistNow();
  },
  ({ puts }) => {
    for (const kind of new Set(puts.map((put) => put.kind)))
      void queryClient.invalidateQueries({ queryKey: keyOf(kind as RecordKind) });
  },
);

export const useOutbox = (): OutboxState => useSyncExternalStore(outbox.subscribe, outbox.snapshot, outbox.snapshot);

const NOTHING: readonly never[] = [];

export interface Records<K extends RecordKind> {
  readonly records: readonly Kept<K>[];
  /** Neither the server nor this device has answered yet. */
  readonly pending: boolean;
}

/** Whether what a place speaks of is on this device: here, on its way, or absent with nobody to ask. */
export type Presence = "here" | "coming" | "absent";

/** @param kinds the lists that a place rests on: with half of them it would say what is not so */
export function usePresence(kinds: readonly RecordKind[]): Presence {
  const restoring = useIsRestoring();
  const { read } = useOutbox();
  const lists = useQueries({
    queries: kinds.map((kind) => listQuery(kind)),
    combine: (all) => ({
      missing: all.some(({ data }) => data === undefined),
      asked: all.every(({ data, fetchStatus }) => data !== undefined || fetchStatus === "fetching"),
    }),
  });
  if (!lists.missing && read) return "here";
  return restoring || lists.asked || !read ? "coming" : "absent";
}

interface Laid {
  readonly kept: readonly unknown[];
  readonly waiting: OutboxState["items"];
  readonly records: readonly unknown[];
}
const laid = new Map<RecordKind, Laid>();

/** The same list for every place that asks, as long as nothing in it changes: what is worked out from it is worked out once. */
function laidOver<K extends RecordKind>(kind: K, kept: readonly Kept<K>[], waiting: Laid["waiting"]) {
  const last = laid.get(kind);
  if (last?.kept === kept && last.waiting === waiting) return last.records as readonly Kept<K>[];
  const records = overlay(kind, kept, waiting);
  laid.set(kind, { kept, waiting, records });
  return records;
}

/** The crew's records of a kind: the server's, with what waits on this device laid over. */
export function useRecords<K extends RecordKind>(kind: K): Records<K> {
  const { data, isPending } = useQuery(listQuery(kind));
  const { items } = useOutbox();
  const records = laidOver(kind, data ?? NOTHING, items);
  return { records, pending: isPending && records.length === 0 };
}

/** Asks for a kind's list again and again while a place is open: two hands work on what it tells of. */
export function useKeptFresh(kind: RecordKind, every: number): void {
  useQuery({ ...listQuery(kind), refetchInterval: every });
}

/** What an act did can be undone as long as the page is open. */
export interface Done {
  /** The way back, as another act. @throws ChangedSince when what it left was changed meanwhile */
  readonly undo: () => Promise<void>;
}

/** What became of an act on the server. */
export type Settled =
  { readonly is: "sent" } | { readonly is: "waiting" } | { readonly is: "refused"; readonly words: string };

/**
 * Waits until the server took an act or would not take it, or for so long.
 * @param within ms
 */
export function settled(id: Id, within: number): Promise<Settled> {
  const now = (): Settled => {
    const row = outbox.snapshot().items.find((item) => item.id === id);
    if (!row) return { is: "sent" };
    return row.refused ? { is: "refused", words: row.refused.detail ?? row.refused.title } : { is: "waiting" };
  };
  return new Promise((done) => {
    const end = () => {
      clearTimeout(timer);
      stop();
      done(now());
    };
    const timer = setTimeout(end, within);
    const stop = outbox.subscribe(() => {
      if (now().is !== "waiting") end();
    });
    if (now().is !== "waiting") end();
  });
}

/** What is to be undone was changed since: it is corrected where it stands. */
export class ChangedSince extends Error {}

/** The newest version that this device knows of a record; 0 for none. */
function versionHere({ kind, id }: Put): number {
  const waiting = outbox.snapshot().items.flatMap(({ act, refused }) => (refused ? [] : act.puts));
  const mine = waiting.filter((put) => put.kind === kind && put.id === id).map(({ replaces = 0 }) => replaces + 1);
  const kept = queryClient.getQueryData<readonly Kept[]>(keyOf(kind as RecordKind));
  return Math.max(0, ...mine, kept?.find((record) => record.id === id)?.version ?? 0);
}

async function undo(what: string, steps: readonly Step[], undoes: Id): Promise<void> {
  const act = undoOf(`${what}, undone`, clockNowIso(), steps, undoes);
  if (act.puts.some((put) => versionHere(put) > (put.replaces ?? 0)))
    throw new ChangedSince("It was changed since. Correct it where it stands; nothing was undone.");
  await outbox.add(newId(), act);
}

/**
 * Does what belongs together, in one row on this device; resolves once it lies there. Sent, it is kept whole or not at all.
 * @param what in the trade's words: `Refill of Van`
 * @throws DeviceRefused when the device would not keep it
 */
export async function act(
  what: string,
  steps: readonly Step[],
  at = clockNowIso(),
): Promise<Done & { readonly id: Id }> {
  const id = newId();
  await outbox.add(id, actOf(what, at, steps));
  askToStay();
  return { id, undo: () => undo(what, steps, id) };
}

const nameOf = (kind: RecordKind) => KINDS[kind].one.replace(/^./, (first) => first.toUpperCase());

/** Keeps a new record; resolves with its id once it lies on this device. */
export async function keep<K extends RecordKind>(kind: K, body: Body<K>, id: Id = newId()): Promise<Done & { id: Id }> {
  return { ...(await act(`${nameOf(kind)} kept`, [kept(kind, body, id)])), id };
}

/** Keeps a changed record, as a new version of the one it started from. */
export const change = <K extends RecordKind>(kind: K, from: Kept<K>, body: Body<K>): Promise<Done> =>
  act(`${nameOf(kind)} changed`, [changed(kind, from, body)]);

/** What was to be taken back is named by something in use; its words say the way out. */
export class InUse extends Error {}

/** A kind's records as this device has them now. */
function recordsHere(kind: RecordKind): readonly Kept[] {
  const known = queryClient.getQueryData<readonly Kept[]>(keyOf(kind)) ?? NOTHING;
  return overlay(kind, known, outbox.snapshot().items);
}

const partOf = (kind: RecordKind): Kind["partOf"] => (KINDS[kind] as Kind).partOf;

/** What is a part of a record, taken back with it. */
const partsHere = (kind: RecordKind, id: Id): readonly Step[] =>
  RECORD_KINDS.filter((each) => partOf(each)?.kind === kind).flatMap((each) =>
    recordsHere(each)
      .filter((record) => (record as unknown as Readonly<Record<string, unknown>>)[partOf(each)!.by] === id)
      .map((record) => takenBack(each, record)),
  );

/** What names a record, as far as this device knows; the server knows for all. */
function usersHere(kind: RecordKind, id: Id): readonly Users[] {
  const naming = RECORD_KINDS.filter((each) => mayName(KINDS[each], kind) && partOf(each)?.kind !== kind);
  return naming.flatMap((each): Users[] => {
    const naming = recordsHere(each).filter((record) =>
      referencesIn(KINDS[each], record as never).some((reference) => reference.to === kind && reference.id === id),
    );
    const first = (naming[0] as { readonly name?: string } | undefined)?.name;
    return naming.length === 0 ? [] : [{ kind: KINDS[each], count: naming.length, name: first }];
  });
}

const today = () => localDate(clockNow());

/** Puts a sold meter, vessel, rig or tap out of the lists; history keeps it. */
export const retire = <K extends "taps" | "meters" | "vessels" | "rigs">(kind: K, record: Kept<K>): Promise<Done> =>
  act(`${nameOf(kind)} retired`, [changed(kind, record, { ...bodyOf(record), retiredOn: today() } as never)]);

/** Brings it into the lists again. */
export const bringIntoUse = <K extends "taps" | "meters" | "vessels" | "rigs">(
  kind: K,
  record: Kept<K>,
): Promise<Done> =>
  act(`${nameOf(kind)} in use again`, [changed(kind, record, { ...bodyOf(record), retiredOn: undefined } as never)]);

/** What names a record may stand in a list that is being fetched for the first time; without a signal none is. */
const listsNaming = (named: RecordKind) =>
  Promise.allSettled(
    RECORD_KINDS.filter((kind) => {
      const state = queryClient.getQueryState(keyOf(kind));
      return mayName(KINDS[kind], named) && state?.data === undefined && state?.fetchStatus === "fetching";
    }).map((kind) => queryClient.fetchQuery(listQuery(kind))),
  );

/**
 * Takes a record back that was entered wrongly; its history stays.
 * @throws InUse while something in use names it
 */
export async function takeBack<K extends RecordKind>(kind: K, record: Kept<K>): Promise<Done> {
  await listsNaming(kind);
  const users = usersHere(kind, record.id);
  if (users.length > 0) throw new InUse(inUseWords(KINDS[kind], users));
  return act(`${nameOf(kind)} taken back`, [...partsHere(kind, record.id), takenBack(kind, record)]);
}

let askedToStay = false;

/** Asks the browser, with the first record kept here, not to throw away what this app stores when room gets short. */
function askToStay(): void {
  if (askedToStay) return;
  askedToStay = true;
  void navigator.storage?.persist?.().catch(() => false);
}
