/** Answers of a pure function, kept by what they hang on; beyond `most` the one asked for longest ago is let go. */
export class Remembered<Answer> {
  private readonly known = new Map<string, Answer>();

  constructor(private readonly most: number) {}

  /** All that is known, by its key. */
  entries(): readonly (readonly [string, Answer])[] {
    return [...this.known];
  }

  /** The answer that is known for a key. */
  get(key: string): Answer | undefined {
    return this.known.get(key);
  }

  /** The answer that is known for a key, or made now. @example halves.of("8", () => 4) // 4 */
  of(key: string, make: () => Answer): Answer {
    const answer = this.known.has(key) ? this.known.get(key)! : make();
    this.known.delete(key);
    this.known.set(key, answer);
    if (this.known.size > this.most) this.known.delete(this.known.keys().next().value!);
    return answer;
  }
}

/** The same for answers that hang on a thing too, a table or a belief: they are gone with it. */
export class RememberedOf<Thing extends object, Answer> {
  private readonly byThing = new WeakMap<Thing, Remembered<Answer>>();

  constructor(private readonly most: number) {}

  /** What is known of a thing. */
  about(thing: Thing): Remembered<Answer> {
    const known = this.byThing.get(thing) ?? new Remembered<Answer>(this.most);
    this.byThing.set(thing, known);
    return known;
  }
}
