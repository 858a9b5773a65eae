import { useSyncExternalStore } from "react";
import { heardTime } from "./clock";

/** Whether the server answers, as this device last saw it. */
export interface Reach {
  /** `unknown` until something was asked. */
  readonly state: "unknown" | "reached" | "lost";
  /** When it last answered, milliseconds since 1970. */
  readonly answeredAt?: number;
  /** Why it is lost: no signal at all, or a server that asks to come again, with its sentence. */
  readonly why?: "no-signal" | "busy";
  readonly words?: string;
}

/** Pauses between two questions to a server that does not answer, ms: each twice the one before. */
const FIRST_PAUSE = 500;
const LONGEST_PAUSE = 30_000;
/** While the app is in front, the server is asked at least so often, so that what is said of it is true. */
const ASK_EVERY = 30_000;

/** An answer as young as this tells of the next one, ms. */
const LATELY = 10_000;
/** Answers that come close upon each other are told once. */
const TELL_EVERY = 5_000;

const PROBE = "/api/v1/health";

type Listener = () => void;

/**
 * The one place that knows whether the server answers, and the only one that asks again and again: everything else waits
 * for it, so that a hundred places without a signal ask no more often than one.
 */
class ReachState {
  private state: Reach = { state: "unknown" };
  private readonly listeners = new Set<Listener>();
  private pause = FIRST_PAUSE;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private scout: Promise<void> | undefined;

  constructor() {
    globalThis.addEventListener?.("online", () => this.askSoon());
    globalThis.document?.addEventListener("visibilitychange", () => {
      if (document.visibilityState === "visible") this.askSoon();
    });
  }

  readonly snapshot = (): Reach => this.state;

  readonly subscribe = (listener: Listener) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  /** It answered, whatever it said. */
  reached(byProbe = false): void {
    // A server that is there and still turns work away is not asked faster for its being there.
    if (!byProbe) this.pause = FIRST_PAUSE;
    // An answer that was on its way when the signal went tells of the time before: asked again at once.
    const isLate = !byProbe && this.state.state === "lost";
    this.askAfter(isLate ? FIRST_PAUSE : ASK_EVERY);
    const { state, answeredAt = 0 } = this.state;
    if (state === "reached" && Date.now() - answeredAt < TELL_EVERY) return;
    this.set({ state: "reached", answeredAt: Date.now() });
  }

  lost(why: "no-signal" | "busy", words?: string): void {
    const { answeredAt } = this.state;
    const first = this.state.state !== "lost";
    this.set({
      state: "lost",
      why,
      ...(words === undefined ? {} : { words }),
      ...(answeredAt === undefined ? {} : { answeredAt }),
    });
    if (first) this.askLater();
  }

  /**
   * Lets one question go alone where nobody has heard of the server lately: without a signal one request fails, and not
   * one for each list. Resolves when this question may be asked.
   */
  async turn(asking: () => Promise<unknown>): Promise<void> {
    const { state, answeredAt = 0 } = this.state;
    if (state === "lost" || (state === "reached" && Date.now() - answeredAt < LATELY)) return;
    if (this.scout) return this.scout;
    const gone = () => {
      this.scout = undefined;
    };
    this.scout = asking().then(gone, gone);
  }

  /** Resolves once the server answers again; at once while it does. */
  whenBack(): Promise<void> {
    if (this.state.state !== "lost") return Promise.resolve();
    return new Promise((back) => {
      const stop = this.subscribe(() => {
        if (this.state.state === "lost") return;
        stop();
        back();
      });
    });
  }

  /** Asks now, since something changed: the network came back, or the app to the front. */
  askSoon(): void {
    if (this.state.state === "unknown") return;
    void this.probe();
  }

  private askLater(): void {
    this.askAfter(this.pause);
    this.pause = Math.min(2 * this.pause, LONGEST_PAUSE);
  }

  private askAfter(milliseconds: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.probe(), milliseconds);
    // Under Node, where tests run, a timer alone keeps nothing alive.
    (this.timer as { unref?: () => void }).unref?.();
  }

  private async probe(): Promise<void> {
    if (globalThis.document?.visibilityState === "hidden" && this.state.state === "reached") return;
    clearTimeout(this.timer);
    try {
      const askedAt = Date.now();
      const answer = await fetch(PROBE, { cache: "no-store" });
      if (!/json/.test(answer.headers.get("content-type") ?? "")) throw new Error("something else answered");
      heardTime(answer.headers.get("date"), askedAt);
      if (answer.ok) return this.reached(true);
      const { detail, title } = (await answer.json()) as { detail?: string; title?: string };
      this.lost("busy", title ?? detail);
    } catch {
      this.lost("no-signal");
    }
    this.askLater();
  }

  private set(next: Reach): void {
    this.state = next;
    for (const listener of this.listeners) listener();
  }
}

export const reach = new ReachState();

export const useReach = (): Reach => useSyncExternalStore(reach.subscribe, reach.snapshot, reach.snapshot);
