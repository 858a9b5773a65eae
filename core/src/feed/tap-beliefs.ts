/** What is believed of a tap before it is known: it varies by a tenth, as if seen on four days. Planning assumptions. */
export const TAP_PRIOR = { spread: 0.1, days: 4 } as const;
/** A typical known to 5 % either way is settled. */
export const SETTLED_WITHIN = 0.05;
