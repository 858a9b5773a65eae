import { useState } from "react";

/**
 * The newest there was: a field that is cleared to be typed anew takes no answer away.
 * @param value the same object for as long as it is the same answer
 */
export function useLastOne<T>(value: T | undefined): T | undefined {
  const [last, setLast] = useState(value);
  if (value !== undefined && value !== last) setLast(value);
  return value ?? last;
}
