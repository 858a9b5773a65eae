import type { Found } from "@winter-bead/core";

/** What a group of figures is without those that nobody typed; nothing where none is left. What is no number stays, to be complained of. */
function typedOnly<T extends object>(group: T | undefined): T | undefined {
  const typed = Object.entries(group ?? {}).filter(([, value]) => value !== undefined);
  return typed.length > 0 ? (Object.fromEntries(typed) as T) : undefined;
}

/** What was found as a record keeps it: a reading that was not read is none. */
export function foundAsTyped(found: Found): Found | undefined {
  const { output, baseline, ...rest } = found;
  const hasValue = (output as { value?: number } | undefined)?.value !== undefined;
  const base = typedOnly(baseline);
  return typedOnly({ ...rest, ...(hasValue ? { output } : {}), ...(base ? { baseline: base } : {}) } as Found);
}
