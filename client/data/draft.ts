import { nameHere } from "./example";
import { forgetOnDevice, jsonOnDevice, keepOnDevice } from "./on-device";
import { useCallback, useState } from "react";

const PREFIX = `${nameHere("winter-bead-draft")}:`;

/** What was kept under a name; nothing where that is unreadable. */
export function savedDraft(name: string): object {
  return jsonOnDevice<object>(PREFIX + name) ?? {};
}

/** Keeps something under a name before the place that shows it is opened. */
export const saveDraft = (name: string, draft: object): void => void keepOnDevice(PREFIX + name, JSON.stringify(draft));

/** State that survives a closed tab, by name; `clear` forgets it. */
export function useDraft<T extends object>(
  name: string,
  initial: T,
): readonly [T, (part: Partial<T>) => void, () => void] {
  const key = PREFIX + name;
  const [draft, setDraft] = useState<T>(() => ({ ...initial, ...(savedDraft(name) as Partial<T>) }));
  const patch = useCallback(
    (part: Partial<T>) => {
      setDraft((before) => {
        const after = { ...before, ...part };
        keepOnDevice(key, JSON.stringify(after));
        return after;
      });
    },
    [key],
  );
  const clear = useCallback(() => {
    forgetOnDevice(key);
    setDraft(initial);
    // The initial value is a constant of the screen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return [draft, patch, clear];
}
