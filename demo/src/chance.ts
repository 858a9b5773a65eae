import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** Seeded chance: the same story every time. */
export class Chance {
  private readonly generator;

  constructor(seed: number) {
    this.generator = xoroshiro128plus(seed);
  }

  /** 0 to 1. */
  share(): number {
    return ((this.generator.next() >>> 0) + 0.5) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.share();
  }

  whole(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1));
  }

  happens(probability: number): boolean {
    return this.share() < probability;
  }

  normal(mean = 0, sd = 1): number {
    return mean + sd * Math.sqrt(-2 * Math.log(this.share())) * Math.cos(2 * Math.PI * this.share());
  }

  /** A UUIDv7 of this moment (RFC 9562), its random part from the seed. */
  id(milliseconds: number): string {
    const hex = (length: number) => Array.from({ length }, () => this.whole(0, 15).toString(16)).join("");
    const time = milliseconds.toString(16).padStart(12, "0");
    return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(3)}-${"89ab"[this.whole(0, 3)]}${hex(3)}-${hex(12)}`;
  }
}
