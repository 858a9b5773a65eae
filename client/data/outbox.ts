import type { Problem, RecordKind } from "@winter-bead/contract";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { OutOfReach, put, Refused, type Kept } from "./api";
import { reach } from "./reach";

/** A write that waits on this device until the server has it. */
export interface OutboxItem {
  /** Order of writing; given by the database. */
  readonly seq: number;
  readonly kind: RecordKind;
  readonly id: string;
  readonly body: object;
  /** The version an edit started from. */
  readonly replaces?: number;
  readonly voided?: boolean;
  readonly madeAt: string;
  /** Set when the server would not take it; it is shown and blocks nothing. */
  readonly refused?: Problem;
}

export type NewItem = Omit<OutboxItem, "seq" | "madeAt" | "refused">;

interface Schema extends DBSchema {
  outbox: { key: number; value: Omit<OutboxItem, "seq"> & { seq?: number } };
}

export interface OutboxState {
  readonly items: readonly OutboxItem[];
  /** What lies on this device was read: before that nobody knows whether something waits. */
  readonly read: boolean;
}

/** This device would not keep what was typed; its message says so to whoever typed it. */
export class DeviceRefused extends Error {}

/** What the server answered to a write. */
export interface Accepted {
  readonly seq: number;
  readonly kind: RecordKind;
  readonly record: Kept;
}

const LOCK = "winter-bead-outbox";
const CHANNEL = "winter-bead-outbox";
/** Answers are shown in batches, so that a long queue does not redraw the app for each of its writes. */
const SETTLE_AFTER = 150;

type Message = { readonly type: "changed" } | { readonly type: "accepted"; readonly accepted: readonly Accepted[] };

const isWaiting = (item: OutboxItem) => item.refused === undefined;

/**
 * The one way by which anything is written: a row on this device first, then the server, in order, as often as it takes.
 * Ids are made here, so sending twice keeps once. A row goes only after its answer lies on this device. Two tabs share one
 * queue under a lock.
 */
export class Outbox {
  private state: OutboxState = { items: [], read: false };
  private readonly listeners = new Set<() => void>();
  private readonly database: Promise<IDBPDatabase<Schema>>;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly answered = new Map<number, Accepted>();
  private settling: Promise<void> | undefined;
  private draining = false;

  /** @param onAccepted lays answers on this device; its promise resolves when they are safe there */
  constructor(private readonly onAccepted: (accepted: readonly Accepted[]) => Promise<void>) {
    this.database = openDB<Schema>("winter-bead", 1, {
      upgrade: (db) => void db.createObjectStore("outbox", { keyPath: "seq", autoIncrement: true }),
    });
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.type === "accepted") void this.onAccepted(data.accepted);
      void this.load().then(() => this.drain());
    };
    void this.load().then(() => this.drain());
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  /** Lets go of the other tabs; what waits stays on this device. */
  close(): void {
    this.channel.close();
  }

  readonly snapshot = (): OutboxState => this.state;

  /**
   * Resolves when the write lies safely on this device; the server follows.
   * @throws DeviceRefused when the device would not keep it
   */
  async add(item: NewItem): Promise<void> {
    const row = { ...item, madeAt: new Date().toISOString() };
    const seq = await this.store(row);
    this.set({ items: [...this.state.items, { ...row, seq }] });
    this.tell({ type: "changed" });
    void this.drain();
  }

  private async store(row: Omit<OutboxItem, "seq">): Promise<number> {
    try {
      return await (await this.database).add("outbox", row);
    } catch (error) {
      throw new DeviceRefused(
        "This device would not keep it: its storage is full or closed to this app. What you typed stands; make room and keep it again.",
        { cause: error },
      );
    }
  }

  /** Drops a write that the server would not take. */
  async drop(seq: number): Promise<void> {
    await (await this.database).delete("outbox", seq);
    this.set({ items: this.state.items.filter((item) => item.seq !== seq) });
    this.tell({ type: "changed" });
  }

  /** Offers a refused write again. */
  async retry(item: OutboxItem): Promise<void> {
    const { refused: _, ...again } = item;
    await this.replace(again);
    this.tell({ type: "changed" });
    void this.drain();
  }

  private async replace(item: OutboxItem): Promise<void> {
    await (await this.database).put("outbox", item);
    this.set({ items: this.state.items.map((each) => (each.seq === item.seq ? item : each)) });
  }

  private tell(message: Message): void {
    this.channel.postMessage(message);
  }

  private async load(): Promise<void> {
    this.set({ items: (await (await this.database).getAll("outbox")) as OutboxItem[], read: true });
  }

  private set(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  private nextToSend(): OutboxItem | undefined {
    return this.state.items.find((item) => isWaiting(item) && !this.answered.has(item.seq));
  }

  private async drain(): Promise<void> {
    if (this.draining || !this.nextToSend()) return;
    this.draining = true;
    try {
      await navigator.locks.request(LOCK, () => this.drainHoldingLock());
    } finally {
      this.draining = false;
    }
    if (this.nextToSend()) void this.drain();
  }

  private async drainHoldingLock(): Promise<void> {
    await this.load();
    for (let next = this.nextToSend(); next; next = this.nextToSend()) {
      await reach.whenBack();
      await this.send(next);
    }
    await this.settling;
  }

  /** Sends one; where there is no answer it stays as it is, and waits for the server to be back. */
  private async send(item: OutboxItem): Promise<void> {
    const { seq, kind, id, body, replaces, voided } = item;
    try {
      const record = await put(kind, id, {
        ...body,
        ...(replaces === undefined ? {} : { replaces }),
        ...(voided ? { voided } : {}),
      });
      this.answered.set(seq, { seq, kind, record });
      this.settling ??= this.settle();
    } catch (error) {
      if (error instanceof OutOfReach) return;
      const problem: Problem =
        error instanceof Refused ? error.problem : { type: "about:blank", title: String(error), status: 0 };
      await this.replace({ ...item, refused: problem });
      this.tell({ type: "changed" });
    }
  }

  /** Lays a batch of answers on this device, and only then lets their rows go. */
  private async settle(): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, SETTLE_AFTER));
    this.settling = undefined;
    const batch = [...this.answered.values()];
    await this.onAccepted(batch);
    const transaction = (await this.database).transaction("outbox", "readwrite");
    await Promise.all([...batch.map(({ seq }) => transaction.store.delete(seq)), transaction.done]);
    const gone = new Set(batch.map(({ seq }) => seq));
    this.set({ items: this.state.items.filter((item) => !gone.has(item.seq)) });
    for (const seq of gone) this.answered.delete(seq);
    this.tell({ type: "accepted", accepted: batch });
  }
}
