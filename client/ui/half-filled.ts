import { useEffect } from "react";

const forms = new Set<object>();

/** Tells while a form on this place has something typed in it that is not kept yet. */
export function useHalfFilled(is: boolean): void {
  useEffect(() => {
    if (!is) return;
    const form = {};
    forms.add(form);
    return () => void forms.delete(form);
  }, [is]);
}

/** Whether a form in sight is half filled in: a digit that misses its field must not lead away from it. */
export const isHalfFilled = (): boolean => forms.size > 0;
