import type { Kind } from "../descriptor/kind";

/** How many records of a kind name what was to be taken back, and the first of them that has a name. */
export interface Users {
  readonly kind: Pick<Kind, "one" | "many">;
  readonly count: number;
  readonly name?: string | undefined;
}

const usersInWords = ({ kind, count, name }: Users) => {
  if (count > 1) return `${count} ${kind.many}`;
  return name === undefined ? `a ${kind.one}` : `the ${kind.one} ${name}`;
};

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words[words.length - 1]}`;

/**
 * Why something can't be taken back, with the way out.
 * @example inUseWords(METER, [{ kind: VISIT, count: 34 }])
 * // "34 visits name this meter. Retire it: lists hide it then, and history keeps it."
 */
export function inUseWords(kind: Pick<Kind, "one" | "fields">, users: readonly Users[]): string {
  const total = users.reduce((sum, { count }) => sum + count, 0);
  const they = listed(users.map(usersInWords)).replace(/^./, (first) => first.toUpperCase());
  const way =
    "retiredOn" in kind.fields
      ? "Retire it: lists hide it then, and history keeps it."
      : `Take ${total === 1 ? "that" : "those"} back first, or name another ${kind.one} there.`;
  return `${they} ${total === 1 ? "names" : "name"} this ${kind.one}. ${way}`;
}
