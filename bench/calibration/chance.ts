import { chance as seeded, type Chance } from "../../core/src/index";

/** Draws of an invented world, the same again for the same seed. */
export class Draws {
  private readonly source: Chance;

  constructor(seed: number) {
    this.source = seeded(seed);
    // Neighbouring seeds begin alike.
    for (let i = 0; i < 20; i += 1) this.source.uniform();
  }

  share = () => this.source.uniform();
  normal = (mean = 0, sd = 1) => mean + sd * this.source.normal();
  between = (low: number, high: number) => low + (high - low) * this.share();
  happens = (probability: number) => this.share() < probability;
}
