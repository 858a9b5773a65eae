/** Answers of a pure function, kept by what they hang on; beyond `most` the one asked for longest ago is let go. */
export class Remembered<Answer> {
  private readonly known = new Map<string, Answer>();

  constructor(private readonly most: number) {}

  has(key: string): boolean {
    return this.known.has(key);
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
