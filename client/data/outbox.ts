import type { Problem, RecordKind } from "@winter-bead/contract";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { OutOfReach, put, Refused, type Kept } from "./api";

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
  readonly reach: "unknown" | "reached" | "out-of-reach";
}

/** What the server answered to a write. */
export interface Accepted {
  readonly seq: number;
  readonly kind: RecordKind;
  readonly record: Kept;
}

const LOCK = "winter-bead-outbox";
const CHANNEL = "winter-bead-outbox";
const FIRST_WAIT = 500;
const LONGEST_WAIT = 5_000;
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
  private state: OutboxState = { items: [], reach: "unknown" };
  private readonly listeners = new Set<() => void>();
  private readonly database: Promise<IDBPDatabase<Schema>>;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly answered = new Map<number, Accepted>();
  private settling: Promise<void> | undefined;
  private wake: () => void = () => undefined;
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
    globalThis.addEventListener?.("online", () => this.wake());
    globalThis.document?.addEventListener("visibilitychange", () => this.wake());
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

  /** Resolves when the write lies safely on this device; the server follows. */
  async add(item: NewItem): Promise<void> {
    const row = { ...item, madeAt: new Date().toISOString() };
    const seq = await (await this.database).add("outbox", row);
    this.set({ items: [...this.state.items, { ...row, seq }] });
    this.tell({ type: "changed" });
    void this.drain();
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
    this.set({ items: (await (await this.database).getAll("outbox")) as OutboxItem[] });
  }

  private set(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  private nextToSend(): OutboxItem | undefined {
    return this.state.items.find((item) => isWaiting(item) && !this.answered.has(item.seq));
  }

  private async drain(): Promise<void> {
    if (this.draining || !this.nextToSend()) return this.wake();
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
    let wait = FIRST_WAIT;
    for (let next = this.nextToSend(); next; next = this.nextToSend()) {
      if (await this.send(next)) wait = FIRST_WAIT;
      else {
        await this.sleep(wait);
        wait = Math.min(2 * wait, LONGEST_WAIT);
      }
    }
    await this.settling;
  }

  /** Whether the server answered, be it yes or no. */
  private async send(item: OutboxItem): Promise<boolean> {
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
      if (error instanceof OutOfReach) {
        if (this.state.reach !== "out-of-reach") this.set({ reach: "out-of-reach" });
        return false;
      }
      const problem: Problem =
        error instanceof Refused ? error.problem : { type: "about:blank", title: String(error), status: 0 };
      await this.replace({ ...item, refused: problem });
      this.tell({ type: "changed" });
    }
    if (this.state.reach !== "reached") this.set({ reach: "reached" });
    return true;
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

  private sleep(milliseconds: number): Promise<void> {
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, milliseconds);
      this.wake = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }
}
