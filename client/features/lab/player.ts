import { useSyncExternalStore } from "react";

/** Where the film stands, 0 to 1; only what draws it listens. */
export class Player {
  private share = 0;
  private frame: number | undefined;
  private last = 0;
  private playing = false;
  private readonly listeners = new Set<() => void>();

  /** @param duration seconds from start to end */
  constructor(private readonly duration = 12) {}

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  readonly position = (): number => this.share;
  readonly isPlaying = (): boolean => this.playing;

  play(): void {
    if (this.playing) return;
    if (this.share >= 1) this.share = 0;
    this.playing = true;
    this.last = performance.now();
    this.frame = requestAnimationFrame(this.tick);
    this.tell();
  }

  pause(): void {
    if (this.frame !== undefined) cancelAnimationFrame(this.frame);
    this.frame = undefined;
    this.playing = false;
    this.tell();
  }

  /** Goes to a place and stays there. */
  seek(share: number): void {
    this.share = Math.min(1, Math.max(0, share));
    this.pause();
  }

  private readonly tick = (now: number): void => {
    this.share = Math.min(1, this.share + Math.max(0, now - this.last) / 1000 / this.duration);
    this.last = now;
    if (this.share >= 1) return this.pause();
    this.frame = requestAnimationFrame(this.tick);
    this.tell();
  };

  private tell(): void {
    for (const listener of this.listeners) listener();
  }
}

export const usePosition = (player: Player) => useSyncExternalStore(player.subscribe, player.position, player.position);
export const usePlaying = (player: Player) =>
  useSyncExternalStore(player.subscribe, player.isPlaying, player.isPlaying);
