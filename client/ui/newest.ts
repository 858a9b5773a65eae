import { useCallback, useLayoutEffect, useRef } from "react";

/** What was drawn last, for what happens between two drawings: so that nothing is drawn again for it. */
export function useNewest<T>(value: T) {
  const newest = useRef(value);
  useLayoutEffect(() => {
    newest.current = value;
  });
  return newest;
}

/** The same function for as long as a part stands, which does what the newest one does: a part that takes it is not drawn again for it. */
export function useSteady<A extends unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const newest = useNewest(act);
  return useCallback((...args: A) => newest.current(...args), [newest]);
}
