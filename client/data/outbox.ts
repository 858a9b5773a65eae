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

const LOCK = "winter-bead-outbox";
const CHANNEL = "winter-bead-outbox";
const LONGEST_WAIT = 15_000;
const FIRST_WAIT = 500;

type Message = { readonly type: "changed" } | { readonly type: "accepted"; readonly kind: RecordKind; readonly record: Kept };

/**
 * The one way by which anything is written: a row on this device first, then the server, in order, as often as it takes.
 * Ids are made here, so sending twice keeps once. Two tabs share one queue under a lock.
 */
export class Outbox {
  private state: OutboxState = { items: [], reach: "unknown" };
  private readonly listeners = new Set<() => void>();
  private readonly database: Promise<IDBPDatabase<Schema>>;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private wake: () => void = () => undefined;
  private draining = false;

  constructor(private readonly onAccepted: (kind: RecordKind, record: Kept) => void) {
    this.database = openDB<Schema>("winter-bead", 1, { upgrade: (db) => void db.createObjectStore("outbox", { keyPath: "seq", autoIncrement: true }) });
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.type === "accepted") this.onAccepted(data.kind, data.record);
      void this.reload();
    };
    globalThis.addEventListener?.("online", () => this.wake());
    globalThis.document?.addEventListener("visibilitychange", () => this.wake());
    void this.reload().then(() => this.drain());
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  readonly snapshot = (): OutboxState => this.state;

  /** Resolves when the write lies safely on this device; the server follows. */
  async add(item: NewItem): Promise<void> {
    const db = await this.database;
    await db.add("outbox", { ...item, madeAt: new Date().toISOString() });
    await this.changed();
    void this.drain();
  }

  /** Drops a write that the server would not take. */
  async drop(seq: number): Promise<void> {
    await (await this.database).delete("outbox", seq);
    await this.changed();
  }

  /** Offers a refused write again. */
  async retry(item: OutboxItem): Promise<void> {
    const { refused: _, ...again } = item;
    await (await this.database).put("outbox", again);
    await this.changed();
    void this.drain();
  }

  private async changed(): Promise<void> {
    this.channel.postMessage({ type: "changed" } satisfies Message);
    await this.reload();
  }

  private async reload(): Promise<void> {
    const rows = await (await this.database).getAll("outbox");
    this.set({ items: rows as OutboxItem[] });
  }

  private set(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  private async drain(): Promise<void> {
    if (this.draining) return this.wake();
    this.draining = true;
    try {
      await navigator.locks.request(LOCK, () => this.drainHoldingLock());
    } finally {
      this.draining = false;
    }
    if (this.state.items.some((item) => !item.refused)) void this.drain();
  }

  private async drainHoldingLock(): Promise<void> {
    let wait = FIRST_WAIT;
    for (;;) {
      await this.reload();
      const next = this.state.items.find((item) => !item.refused);
      if (!next) return;
      if (await this.send(next)) wait = FIRST_WAIT;
      else {
        await this.sleep(wait);
        wait = Math.min(2 * wait, LONGEST_WAIT);
      }
    }
  }

  /** Whether the server answered, be it yes or no. */
  private async send(item: OutboxItem): Promise<boolean> {
    const db = await this.database;
    try {
      const record = await put(item.kind, item.id, { ...item.body, ...(item.replaces === undefined ? {} : { replaces: item.replaces }), ...(item.voided ? { voided: true } : {}) });
      this.onAccepted(item.kind, record);
      this.channel.postMessage({ type: "accepted", kind: item.kind, record } satisfies Message);
      await db.delete("outbox", item.seq);
    } catch (error) {
      if (error instanceof OutOfReach) {
        this.set({ reach: "out-of-reach" });
        return false;
      }
      const problem: Problem = error instanceof Refused ? error.problem : { type: "about:blank", title: String(error), status: 0 };
      await db.put("outbox", { ...item, refused: problem });
    }
    this.set({ reach: "reached" });
    await this.changed();
    return true;
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
