import { PROBLEMS } from "@winter-bead/contract/src/problem-types";
import type { Act, Problem } from "@winter-bead/contract";
import type { Id } from "@winter-bead/core";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { OutOfReach, putAct, Refused, type KeptByAct } from "./api";
import { actOfOldRow, OLD_OUTBOX, type OldRow } from "./old-outbox";
import { isExample, nameHere } from "./example";
import { reach } from "./reach";

/** An act that waits on this device until the server has it. */
export interface OutboxItem {
  /** Order of writing; given by the database. */
  readonly seq: number;
  readonly id: Id;
  readonly act: Act;
  readonly madeAt: string;
  /** Set when the server would not take it; it is shown and blocks nothing. */
  readonly refused?: Problem;
}

interface Schema extends DBSchema {
  acts: { key: number; value: Omit<OutboxItem, "seq"> & { seq?: number }; indexes: { id: Id } };
}

/** Why what waits is not sent though the server answers. */
export interface Held {
  readonly why: "signed-out" | "newer-shape" | "unknown";
  readonly words: string;
}

export interface OutboxState {
  readonly items: readonly OutboxItem[];
  /** What lies on this device was read: before that nobody knows whether something waits. */
  readonly read: boolean;
  readonly held?: Held | undefined;
}

/** This device would not keep what was typed; its message says so to whoever typed it. */
export class DeviceRefused extends Error {}

/** What the server answered to an act. */
export interface Accepted {
  readonly seq: number;
  readonly records: readonly KeptByAct[];
}

const DATABASE = nameHere("winter-bead-acts");
const LOCK = nameHere("winter-bead-outbox");
const CHANNEL = nameHere("winter-bead-acts");
/** Answers are shown in batches, so that a long queue does not redraw the app for each of its writes. */
const SETTLE_AFTER = 150;

type Message = { readonly type: "changed" } | { readonly type: "accepted"; readonly accepted: readonly Accepted[] };

/** After this, what is held is offered again, ms: twice as long each time. */
const FIRST_HOLD = 5_000;
const LONGEST_HOLD = 300_000;

const SIGNED_OUT = 401;

/** What keeps a write waiting that is not at fault itself; undefined where the server read it and would not take it. */
function heldBy(error: unknown): Held | undefined {
  if (!(error instanceof Refused))
    return {
      why: "unknown",
      words: `Sending came to a halt here (${String((error as Error).message ?? error)}). Nothing is lost; it is tried again.`,
    };
  const { status, problem } = error;
  if (status === SIGNED_OUT || problem.type === PROBLEMS.signedOut)
    return { why: "signed-out", words: "You are signed out: what waits is sent once you are signed in again." };
  if (problem.type === PROBLEMS.newerShape)
    return {
      why: "newer-shape",
      words: "The server is older than this page: what waits is sent once it is up to date.",
    };
  return undefined;
}

const isWaiting = (item: OutboxItem) => item.refused === undefined;

/**
 * The one way by which anything is written: a row on this device first, then the server, in order, as often as it takes.
 * Ids are made here, so sending twice keeps once. A row is one act, whatever it keeps; it goes only after its answer lies on
 * this device. Two tabs share one queue under a lock.
 */
export class Outbox {
  private state: OutboxState = { items: [], read: false };
  private readonly listeners = new Set<() => void>();
  private readonly database: Promise<IDBPDatabase<Schema>>;
  private readonly channel = new BroadcastChannel(CHANNEL);
  private readonly answered = new Map<number, Accepted>();
  private settling: Promise<void> | undefined;
  private draining = false;
  private hold = FIRST_HOLD;
  private layAgain = FIRST_HOLD;
  private holdTimer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param onAccepted lays answers on this device; its promise resolves when they are safe there
   * @param onRefused what an act speaks of is not as this device has it
   */
  constructor(
    private readonly onAccepted: (accepted: readonly Accepted[]) => Promise<void>,
    private readonly onRefused: (act: Act) => void = () => undefined,
  ) {
    this.database = openDB<Schema>(DATABASE, 1, {
      upgrade: (db) =>
        void db
          .createObjectStore("acts", { keyPath: "seq", autoIncrement: true })
          .createIndex("id", "id", { unique: true }),
    });
    this.channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.type === "accepted") void this.onAccepted(data.accepted).catch(() => undefined);
      void this.load().then(() => this.drain());
    };
    void this.moveOver()
      .then(() => this.load())
      .then(() => this.drain());
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  /** Lets go of the other tabs; what waits stays on this device. */
  close(): void {
    clearTimeout(this.holdTimer);
    this.channel.close();
  }

  readonly snapshot = (): OutboxState => this.state;

  /**
   * Resolves when the act lies safely on this device; the server follows.
   * @throws DeviceRefused when the device would not keep it
   */
  async add(id: Id, act: Act): Promise<void> {
    const row = { id, act, madeAt: new Date().toISOString() };
    const seq = await this.store(row);
    this.set({ items: [...this.state.items, { ...row, seq }] });
    this.tell({ type: "changed" });
    void this.drain();
  }

  private async store(row: Omit<OutboxItem, "seq">): Promise<number> {
    try {
      return await (await this.database).add("acts", row);
    } catch (error) {
      throw new DeviceRefused(
        "This device would not keep it: its storage is full or closed to this app. What you typed stands; make room and keep it again.",
        { cause: error },
      );
    }
  }

  /** Drops a write that the server would not take. */
  async drop(seq: number): Promise<void> {
    await (await this.database).delete("acts", seq);
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
    await (await this.database).put("acts", item);
    this.set({ items: this.state.items.map((each) => (each.seq === item.seq ? item : each)) });
  }

  private tell(message: Message): void {
    this.channel.postMessage(message);
  }

  private async load(): Promise<void> {
    this.set({ items: (await (await this.database).getAll("acts")) as OutboxItem[], read: true });
  }

  /**
   * Rows that an older version of this page left become acts. Each gets the id that it would get again: moved over twice, as
   * after a crash in between, it is still one act.
   */
  private async moveOver(): Promise<void> {
    if (isExample) return;
    await navigator.locks.request(LOCK, async () => {
      const old = await openDB(OLD_OUTBOX.database, 1, {
        upgrade: (db) => void db.createObjectStore(OLD_OUTBOX.store, { keyPath: "seq", autoIncrement: true }),
      });
      for (const row of (await old.getAll(OLD_OUTBOX.store)) as OldRow[]) {
        const moved = actOfOldRow(row);
        const database = await this.database;
        if ((await database.getFromIndex("acts", "id", moved.id)) === undefined) await database.add("acts", moved);
        await old.delete(OLD_OUTBOX.store, row.seq);
      }
      old.close();
    });
  }

  private set(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  private nextToSend(): OutboxItem | undefined {
    // What is tried in the example stays in it.
    if (this.state.held || isExample) return undefined;
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
    const { seq, id, act } = item;
    try {
      const { records } = await putAct(id, act);
      this.hold = FIRST_HOLD;
      this.answered.set(seq, { seq, records });
      this.settling ??= this.settle();
    } catch (error) {
      if (error instanceof OutOfReach) return;
      const held = heldBy(error);
      if (held) return this.holdBack(held);
      try {
        await this.replace({ ...item, refused: (error as Refused).problem });
      } catch (full) {
        return this.holdBack(heldBy(full)!);
      }
      this.onRefused(act);
      this.tell({ type: "changed" });
    }
  }

  /** What waits is not at fault: nothing is sent for a while, and then all of it is offered again, in its order. */
  private holdBack(held: Held): void {
    this.set({ held });
    clearTimeout(this.holdTimer);
    this.holdTimer = setTimeout(() => this.letGo(), this.hold);
    // Under Node, where tests run, a timer alone keeps nothing alive.
    (this.holdTimer as { unref?: () => void }).unref?.();
    this.hold = Math.min(2 * this.hold, LONGEST_HOLD);
  }

  /** Offers what is held again now, as after signing in. */
  letGo(): void {
    clearTimeout(this.holdTimer);
    this.set({ held: undefined });
    void this.drain();
  }

  /** Lays answers on this device after a moment; where it would not take them, their rows stay and it is tried again. */
  private async settle(): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, SETTLE_AFTER));
    this.settling = undefined;
    try {
      await this.lay();
      this.layAgain = FIRST_HOLD;
    } catch {
      const again = setTimeout(() => (this.settling ??= this.settle()), this.layAgain);
      (again as { unref?: () => void }).unref?.();
      this.layAgain = Math.min(2 * this.layAgain, LONGEST_HOLD);
    }
  }

  /** Lays a batch of answers on this device, and only then lets their rows go. */
  private async lay(): Promise<void> {
    const batch = [...this.answered.values()];
    await this.onAccepted(batch);
    const transaction = (await this.database).transaction("acts", "readwrite");
    await Promise.all([...batch.map(({ seq }) => transaction.store.delete(seq)), transaction.done]);
    const gone = new Set(batch.map(({ seq }) => seq));
    this.set({ items: this.state.items.filter((item) => !gone.has(item.seq)) });
    for (const seq of gone) this.answered.delete(seq);
    this.tell({ type: "accepted", accepted: batch });
  }
}
