import type { Quantity } from "@winter-bead/core/src/descriptor/field";
import { useMemo } from "react";
import { savedDraft, useDraft } from "../data/draft";
import { useSettings } from "../data/settings";
import type { Units } from "../ui/format";
import { useSteady } from "../ui/newest";
import { textIn } from "./texts";

type Convert<T> = (draft: T, from: Units, to: Units) => T;

/** Which of a draft's texts are of what. */
export const ofQuantities =
  <T extends object>(quantities: { readonly [K in keyof T]?: Quantity }): Convert<T> =>
  (draft, from, to) => {
    const converted = Object.entries(quantities).map(([name, quantity]) => {
      const text = draft[name as keyof T];
      return [name, typeof text === "string" ? textIn(quantity as Quantity, text, from, to) : text];
    });
    return { ...draft, ...Object.fromEntries(converted) } as T;
  };

type Tagged<T> = T & { readonly typedIn?: Units };

/**
 * What was typed survives a closed tab, and is kept and converted where the units are switched.
 * @param initial in the units of now
 */
export function useUnitDraft<T extends object>(
  name: string,
  initial: T,
  convert: Convert<T>,
): readonly [T, (part: Partial<T>) => void, () => void] {
  const { units } = useSettings();
  // Versions before this one kept a draft for each unit system under a name of its own.
  const start = useMemo<Tagged<T>>(
    () => ({ ...initial, ...(savedDraft(`${name}:${units}`) as Partial<T>), typedIn: units }),
    // Read once for a name: what is typed later must not be overwritten.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [name, units],
  );
  const [stored, patchStored, clear] = useDraft<Tagged<T>>(name, start);
  const from = stored.typedIn ?? units;
  const draft = useMemo(() => (from === units ? stored : convert(stored, from, units)), [stored, from, units, convert]);
  const patch = useSteady((part: Partial<T>) =>
    patchStored(
      from === units ? ({ ...part, typedIn: units } as Partial<Tagged<T>>) : { ...draft, ...part, typedIn: units },
    ),
  );
  return [draft, patch, clear];
}
